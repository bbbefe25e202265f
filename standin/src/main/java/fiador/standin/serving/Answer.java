package fiador.standin.serving;

import java.sql.ResultSet;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** Takes what a statement gives. */
interface Answer {
  /** Rows, as long as they are open. */
  void rows(ResultSet rows) throws SQLException, java.io.IOException;

  /** How many rows were changed; null for a statement that is not about rows. */
  void done(@Nullable Long changed) throws java.io.IOException;
}
