package fiador.sweep.tables;

import java.io.IOException;
import org.jspecify.annotations.Nullable;

/** Takes rows of tables. */
public interface Sink {
  /**
   * A row.
   *
   * @param values one for each field of the table, as {@link TableFile#row} takes them
   */
  void row(Table table, @Nullable Object... values) throws IOException;
}
