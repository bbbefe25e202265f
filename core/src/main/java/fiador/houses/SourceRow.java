package fiador.houses;

import org.jspecify.annotations.Nullable;

/** One row of a query or a file; good until the next one. */
@FunctionalInterface
public interface SourceRow {
  /**
   * What stands in a column.
   *
   * @param column from 0, in the order of the header
   * @return null where nothing does
   */
  @Nullable String value(int column);
}
