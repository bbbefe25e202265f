package fiador.servers.jdbc;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Runs a query and hands over its rows, streamed. */
public final class Sql {
  private static final int FETCH = 10_000;

  private Sql() {}

  /** Takes one row; must not move the cursor. */
  @FunctionalInterface
  public interface Row {
    /** Reads what it needs from the current row. */
    void read(ResultSet row) throws SQLException;
  }

  /** Runs {@code query} with the given parameters and calls {@code each} for every row. */
  public static void rows(Connection connection, String query, Row each, Object... parameters)
      throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(query)) {
      statement.setFetchSize(FETCH);
      for (int i = 0; i < parameters.length; i++) {
        statement.setObject(i + 1, parameters[i]);
      }
      try (ResultSet found = statement.executeQuery()) {
        while (found.next()) {
          each.read(found);
        }
      }
    }
  }
}
