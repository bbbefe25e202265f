package fiador.servers.jdbc;

import fiador.estate.ColumnType;
import fiador.policies.SafeColumn;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.Pattern;

/** Reads rows as values that predicates and masks know, one after the other. */
public final class TableReader {
  private static final int ROWS_AT_A_TIME = 1_000;

  private static final Pattern PLAIN =
      Pattern.compile("\\d{4}-\\d\\d-\\d\\d( \\d\\d:\\d\\d:\\d\\d(\\.\\d+)?)?");

  private TableReader() {}

  /** Is given the rows. */
  @FunctionalInterface
  public interface Rows {
    /**
     * The next row, by the ordinals of the columns.
     *
     * @return whether more are wanted
     */
    boolean next(Object[] row);
  }

  /**
   * Runs a query. Memory: some rows, whatever the table holds, where the connection does not commit
   * by itself.
   *
   * @param columns what it gives
   * @param times how the driver gives times
   */
  public static void read(
      Connection connection, String query, List<SafeColumn> columns, Times times, Rows rows)
      throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.setFetchSize(ROWS_AT_A_TIME);
      try (ResultSet found = statement.executeQuery(query)) {
        boolean more = true;
        while (more && found.next()) {
          Object[] row = new Object[columns.size()];
          for (int i = 0; i < row.length; i++) {
            row[i] = value(found, i + 1, columns.get(i).type(), times);
          }
          more = rows.next(row);
        }
      }
    }
  }

  private static Object value(ResultSet row, int at, ColumnType type, Times times)
      throws SQLException {
    return switch (type) {
      case INTEGER, DECIMAL -> row.getBigDecimal(at);
      case DATE -> {
        String text = row.getString(at);
        yield isPlain(text) ? LocalDate.parse(text) : row.getObject(at, LocalDate.class);
      }
      case TIMESTAMP -> times.in(row, at);
      case BOOLEAN -> {
        boolean truth = row.getBoolean(at);
        yield row.wasNull() ? null : (Object) truth;
      }
      case PADDED -> {
        String text = row.getString(at);
        yield text == null ? null : text.replaceFirst(" +$", "");
      }
      default -> row.getString(at);
    };
  }

  /**
   * Whether it is a date as all servers write it. Drivers differ in what they make of dates before
   * the Gregorian calendar; the server's own text is what its predicates go by.
   */
  static boolean isPlain(String date) {
    return date != null && PLAIN.matcher(date).matches();
  }
}
