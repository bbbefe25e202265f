package fiador.changes.steps;

/**
 * One answer for each kind of step about rows and columns.
 *
 * @param <T> what comes of it; Void for nothing
 */
public interface SightCases<T> {
  /** Of {@link Guard}. */
  T guard(Guard step);

  /** Of {@link SetAttribute}. */
  T setAttribute(SetAttribute step);

  /** Of {@link DefineLookup}. */
  T defineLookup(DefineLookup step);

  /** Of {@link ShowSafely}. */
  T showSafely(ShowSafely step);

  /** Of {@link FilterRows}. */
  T filterRows(FilterRows step);

  /** Of {@link MoveTable}. */
  T moveTable(MoveTable step);
}
