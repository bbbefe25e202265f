package fiador.columns;

/** Gives columns by the names a {@link ColumnSink} took them under. */
public interface ColumnSource {
  /**
   * The ints of that name.
   *
   * @throws IllegalArgumentException when there are none
   */
  Ints ints(String name);

  /**
   * The characters of that name.
   *
   * @throws IllegalArgumentException when there are none
   */
  Chars chars(String name);
}
