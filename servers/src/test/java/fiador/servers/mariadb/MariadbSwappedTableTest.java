package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.LookupTable;
import fiador.changes.steps.On;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.grants.LookupKey;
import fiador.policies.SafeColumn;
import fiador.servers.LeakAttempts;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * Who may make things in a schema puts a view where a table with policies stood. Views know tables
 * by name here and lend their makers' rights to all that lies under them.
 */
final class MariadbSwappedTableTest {
  private static final Server SERVER = new MariadbServer();
  private static final Login ROOT = RealMariadb.login();
  private static final String SECRET = "kept-from-her";

  private static final LookupTable DESKS =
      new LookupTable(
          "desk",
          new On(NodeKind.TABLE, null, List.of("vault", "f")),
          new SafeColumn("district", ColumnType.TEXT),
          LookupKey.USER,
          new SafeColumn("phone", ColumnType.TEXT));

  @BeforeEach
  void build() throws SQLException, ServerException {
    List<String> statements =
        new ArrayList<>(
            List.of(
                "CREATE DATABASE vault",
                "CREATE DATABASE salaries",
                "CREATE TABLE salaries.all_of_them (paid varchar(40))",
                "INSERT INTO salaries.all_of_them VALUES ('" + SECRET + "')",
                "CREATE USER mallory@'%' IDENTIFIED BY 'm'",
                "GRANT ALL ON vault.* TO mallory@'%'"));
    statements.addAll(LeakAttempts.make(SERVER, null, false));
    statements.addAll(SERVER.dialect().statements(new DefineLookup(null, null, DESKS)));
    statements.add("GRANT SELECT ON fiador_guard.lookup_desk TO mallory@'%'");
    as("root", "", statements);
    as(
        "mallory",
        "m",
        List.of(
            "CREATE FUNCTION vault.peek() RETURNS varchar(40) SQL SECURITY INVOKER READS SQL DATA"
                + " RETURN (SELECT max(paid) FROM salaries.all_of_them)"));
  }

  @AfterEach
  void clear() throws SQLException, ServerException {
    as(
        "root",
        "",
        List.of(
            "DROP DATABASE vault",
            "DROP DATABASE salaries",
            "DROP DATABASE fiador_guard",
            "DROP USER mallory@'%'"));
  }

  private static void as(String user, String secret, List<String> statements)
      throws SQLException, ServerException {
    try (Connection connection = SERVER.connect(ROOT.as(user, secret), null);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static String seen(String user, String secret, String sql) throws Exception {
    try (Connection connection = SERVER.connect(ROOT.as(user, secret), null)) {
      return LeakAttempts.outcome(connection, sql);
    }
  }

  private static void swap(String table) throws Exception {
    as(
        "mallory",
        "m",
        List.of(
            "DROP TABLE vault." + table,
            "CREATE SQL SECURITY INVOKER VIEW vault."
                + table
                + " AS SELECT 1 AS id, vault.peek() AS district, vault.peek() AS phone"));
  }

  @Test
  void aViewThatTrustsTheNameLendsItsMakersRights() throws Exception {
    as(
        "root",
        "",
        List.of(
            "CREATE SQL SECURITY DEFINER VIEW vault.careless AS SELECT t.district FROM vault.t t"));
    swap("t");
    assertThat(seen("mallory", "m", "SELECT district FROM vault.careless")).contains(SECRET);
  }

  @Test
  void ourViewsReadTablesOrNothing() throws Exception {
    assertThat(seen("mallory", "m", "SELECT district FROM vault.t_safe")).contains("north");
    swap("t");
    swap("f");
    for (String sql :
        List.of("SELECT * FROM vault.t_safe", "SELECT value FROM fiador_guard.lookup_desk")) {
      assertThat(seen("mallory", "m", sql))
          .as(sql)
          .doesNotContain(SECRET)
          .contains("doesn't exist in table");
      assertThat(seen("root", "", sql)).as(sql).contains("doesn't exist in table");
    }
  }
}
