package fiador.servers.mariadb;

import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Keeps settles apart. A named lock can be taken by anybody, so it only tells who is settling; what
 * counts is a lock on a table of the server's own that only administrators may lock and that next
 * to nothing reads. Logins that may not do that go by the named lock alone.
 */
final class SettleLock {
  static final int TIMED_OUT = 1205;

  private static final String NAMED = "select get_lock('fiador settle', 1)";
  private static final String TABLE = "LOCK TABLES mysql.servers WRITE";

  private static final String HOLDER =
      """
      select concat(USER, ' from ', HOST, ', connection ', ID, ', for ', TIME, ' s')
        from information_schema.PROCESSLIST where ID = is_used_lock('fiador settle')
      """;

  private SettleLock() {}

  /** Takes it for as long as the connection lasts; gives who holds it, or null when we do. */
  static String take(Connection connection) throws SQLException {
    boolean[] named = new boolean[1];
    Sql.rows(connection, NAMED, row -> named[0] = row.getBoolean(1));
    String[] holder = {"somebody"};
    if (!named[0]) {
      Sql.rows(connection, HOLDER, row -> holder[0] = row.getString(1));
    }
    try (Statement statement = connection.createStatement()) {
      statement.execute(TABLE);
      return null;
    } catch (SQLException refused) {
      if (refused.getErrorCode() == TIMED_OUT) {
        return holder[0];
      }
      return named[0] ? null : holder[0];
    }
  }
}
