package fiador.servers.postgresql;

import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Keeps settles apart. An advisory lock belongs to one database, and anybody can take it; so a
 * catalog of the whole server is locked that only administrators may lock and that nothing else
 * uses. Logins that may not do even that share an advisory lock.
 */
final class SettleLock {
  static final String TIMED_OUT = "55P03";

  private static final String NOT_ALLOWED = "42501";

  private static final String TABLE =
      "LOCK TABLE pg_catalog.pg_shseclabel IN SHARE UPDATE EXCLUSIVE MODE";

  /** The number is "fiador" in letters of the alphabet. */
  private static final String ADVISORY = "select pg_try_advisory_lock(6090104158)";

  private static final String HOLDER =
      """
      select concat(a.usename, ' from ', coalesce(host(a.client_addr), 'this machine'), ', process ',
                    a.pid, ', since ', date_trunc('second', a.backend_start))
        from pg_locks l join pg_stat_activity a on a.pid = l.pid
       where l.granted and a.pid <> pg_backend_pid()
         and (l.relation = 'pg_catalog.pg_shseclabel'::regclass
              and l.mode = 'ShareUpdateExclusiveLock'
              or l.locktype = 'advisory' and l.classid = 1 and l.objid = 1795136862)
       limit 1
      """;

  private SettleLock() {}

  /** Takes it for as long as the connection lasts; gives who holds it, or null when we do. */
  static String take(Connection connection) throws SQLException {
    connection.setAutoCommit(false);
    try (Statement statement = connection.createStatement()) {
      statement.execute(TABLE);
      return null;
    } catch (SQLException refused) {
      connection.rollback();
      if (TIMED_OUT.equals(refused.getSQLState())) {
        return holder(connection);
      } else if (!NOT_ALLOWED.equals(refused.getSQLState())) {
        throw refused;
      }
    }
    boolean[] taken = new boolean[1];
    Sql.rows(connection, ADVISORY, row -> taken[0] = row.getBoolean(1));
    return taken[0] ? null : holder(connection);
  }

  private static String holder(Connection connection) throws SQLException {
    String[] found = {"somebody"};
    Sql.rows(connection, HOLDER, row -> found[0] = row.getString(1));
    return found[0];
  }
}
