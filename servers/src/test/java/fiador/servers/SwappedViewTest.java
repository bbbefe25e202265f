package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Guard;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.policies.SafeColumn;
import fiador.servers.hsqldb.HsqldbServer;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * Whoever owns a view with policies makes it show something else, by a function that runs with the
 * rights of who asks. The safe view over it, which an administrator made, lends them nothing.
 */
final class SwappedViewTest {
  private static final String SECRET = "kept-from-her";

  private static void execute(Connection connection, List<String> statements) throws Exception {
    try (Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static void show(Server server, Connection admin, String database, String... names)
      throws Exception {
    SafeView safe =
        new SafeView(
            new On(NodeKind.VIEW, database, List.of(names[0], names[2])),
            new On(NodeKind.VIEW, database, List.of(names[0], names[1])),
            List.of(
                new SafeColumn(names[3], ColumnType.TEXT),
                new SafeColumn(names[4], ColumnType.TEXT)),
            "mask\tm\ttrue\t" + names[4] + "\tstars\n",
            false,
            null);
    for (Step step : List.of(new Guard(database, true), new ShowSafely(null, safe))) {
      execute(admin, server.dialect().statements(step));
    }
  }

  @Test
  void onPostgresql() throws Exception {
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(18);
    try (Connection start = RealPostgresql.connect(login, null)) {
      execute(start, List.of("CREATE DATABASE swapped", "CREATE ROLE mallory LOGIN"));
      try (Connection admin = RealPostgresql.connect(login, "swapped");
          Connection hers = RealPostgresql.connect(login.as("mallory", ""), "swapped")) {
        execute(
            admin,
            List.of(
                "CREATE TABLE public.salaries (paid text)",
                "INSERT INTO public.salaries VALUES ('" + SECRET + "')",
                "CREATE SCHEMA mine AUTHORIZATION mallory"));
        execute(hers, List.of("CREATE VIEW mine.v AS SELECT 'north'::text AS a, '555'::text AS b"));
        show(server, admin, "swapped", "mine", "v", "v_safe", "a", "b");
        execute(admin, List.of("GRANT SELECT ON mine.v_safe TO mallory"));
        assertThat(LeakAttempts.outcome(hers, "SELECT a, b FROM mine.v_safe"))
            .isEqualTo("north|*****|\n");
        execute(
            hers,
            List.of(
                "CREATE FUNCTION mine.peek() RETURNS text LANGUAGE plpgsql SECURITY INVOKER AS"
                    + " 'BEGIN RETURN (SELECT max(paid) FROM public.salaries); END'"));
        for (String swap :
            List.of(
                "CREATE OR REPLACE VIEW mine.v AS SELECT mine.peek() AS a, 'x'::text AS b",
                "ALTER VIEW mine.v SET (security_invoker = true)",
                "CREATE OR REPLACE VIEW mine.v WITH (security_invoker = true) AS"
                    + " SELECT paid AS a, 'x'::text AS b FROM public.salaries")) {
          execute(hers, List.of(swap));
          assertThat(LeakAttempts.outcome(hers, "SELECT a, b FROM mine.v_safe"))
              .as(swap)
              .contains("permission denied for table salaries");
        }
      }
      execute(start, List.of("DROP DATABASE swapped", "DROP ROLE mallory"));
    }
  }

  @Test
  void onHsqldb() throws Exception {
    Server server = new HsqldbServer();
    Login login = new Login("jdbc:hsqldb:mem:swapped", "SA", "");
    try (Connection admin = server.connect(login, null)) {
      execute(
          admin,
          List.of(
              "CREATE USER MALLORY PASSWORD 'm'",
              "CREATE SCHEMA PAY",
              "CREATE TABLE PAY.SALARIES (PAID VARCHAR(40))",
              "INSERT INTO PAY.SALARIES VALUES ('" + SECRET + "')",
              "CREATE SCHEMA MINE AUTHORIZATION MALLORY"));
      try (Connection hers = server.connect(login.as("MALLORY", "m"), null)) {
        execute(
            hers, List.of("CREATE VIEW MINE.V (A, B) AS SELECT 'north', '555' FROM (VALUES (0))"));
        show(server, admin, null, "MINE", "V", "V_SAFE", "A", "B");
        assertThat(LeakAttempts.outcome(hers, "SELECT A, B FROM MINE.V_SAFE"))
            .isEqualTo("north|*****|\n");
        for (String swap :
            List.of(
                "CREATE FUNCTION MINE.PEEK() RETURNS VARCHAR(40) READS SQL DATA"
                    + " RETURN (SELECT MAX(PAID) FROM PAY.SALARIES)",
                "CREATE FUNCTION MINE.WHO() RETURNS VARCHAR(40) RETURN CURRENT_USER",
                "ALTER VIEW MINE.V AS SELECT MINE.WHO() AS A, 'x' AS B FROM (VALUES (0))",
                "ALTER VIEW MINE.V AS SELECT PAID AS A, 'x' AS B FROM PAY.SALARIES")) {
          LeakAttempts.outcome(hers, swap);
          assertThat(LeakAttempts.outcome(hers, "SELECT A, B FROM MINE.V_SAFE"))
              .as(swap)
              .doesNotContain(SECRET);
        }
        // it did show something else: what her function finds is who asks
        assertThat(LeakAttempts.outcome(hers, "SELECT A, B FROM MINE.V_SAFE"))
            .isEqualTo("MALLORY|*****|\n");
      }
      execute(admin, List.of("SHUTDOWN"));
    }
  }
}
