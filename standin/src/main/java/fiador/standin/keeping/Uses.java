package fiador.standin.keeping;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What each account did and was kept from, the newest of it: whoever can log in at all could fill
 * the disk with it, and nobody pushes out what others did.
 */
final class Uses {
  /** What may be there beyond that, so that it is not tidied at each statement. */
  private static final int SLACK = 10;

  private final Connection keeper;
  private final String table;
  private final int most;
  private final Map<String, Integer> noted = new HashMap<>();

  /**
   * @param table where it is kept, with the account's name in PRINCIPAL_NAME
   * @param most how much is kept of each account
   */
  Uses(Connection keeper, String table, int most) throws SQLException {
    this.keeper = keeper;
    this.table = table;
    this.most = most;
    try (Statement statement = keeper.createStatement();
        ResultSet found =
            statement.executeQuery(
                "SELECT PRINCIPAL_NAME, COUNT(*) FROM " + table + " GROUP BY PRINCIPAL_NAME")) {
      while (found.next()) {
        noted.put(found.getString(1), found.getInt(2));
      }
    }
  }

  /** Notes rows of one account. Cost: theirs, and now and then all that is kept. */
  void note(String account, List<@Nullable String[]> rows) throws SQLException {
    if (rows.isEmpty()) {
      return;
    }
    String places = "?" + ", ?".repeat(rows.get(0).length - 1);
    try (PreparedStatement insert =
        keeper.prepareStatement("INSERT INTO " + table + " VALUES (" + places + ")")) {
      for (@Nullable String[] row : rows) {
        for (int at = 0; at < row.length; at++) {
          insert.setString(at + 1, row[at]);
        }
        insert.addBatch();
      }
      insert.executeBatch();
    }
    int now = noted.merge(account, rows.size(), Integer::sum);
    if (now > most + most / SLACK) {
      noted.put(account, now - forget(account));
    }
  }

  /** Rows are numbered as they come. */
  private int forget(String account) throws SQLException {
    String last =
        "SELECT _ROWID_ FROM "
            + table
            + " WHERE PRINCIPAL_NAME = ? ORDER BY _ROWID_ DESC OFFSET ? ROWS FETCH FIRST ROW ONLY";
    try (PreparedStatement delete =
        keeper.prepareStatement(
            "DELETE FROM " + table + " WHERE PRINCIPAL_NAME = ? AND _ROWID_ <= (" + last + ")")) {
      delete.setString(1, account);
      delete.setString(2, account);
      delete.setInt(3, most);
      return delete.executeUpdate();
    }
  }
}
