package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.servers.SightScenario;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.Preview;
import fiador.servers.live.Trial;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A user who may create things in a database leaves traps wherever the administrator's tool could
 * step. Nothing of hers ever runs while it surveys, previews, proves, settles and undoes.
 */
final class PostgresqlAttackTest {
  private static final Server SERVER = new PostgresqlServer();

  /** Each runs something of hers when it is read, planned or written by an ordinary statement. */
  private static final List<String> TRAPS =
      List.of(
          "CREATE TABLE trap.by_index (id integer)",
          "CREATE INDEX ON trap.by_index ((evil.fixed(1) + id))",
          "CREATE TABLE trap.by_partial (id integer)",
          "CREATE INDEX ON trap.by_partial (id) WHERE evil.stays('x')",
          "CREATE TABLE trap.by_statistics (id integer, b integer)",
          "CREATE STATISTICS trap.s ON (evil.fixed(2) + id), b FROM trap.by_statistics",
          "CREATE TABLE trap.by_heir (id integer)",
          "CREATE TABLE trap.heir (CHECK (evil.fixed(4) + id > 0)) INHERITS (trap.by_heir)",
          "CREATE TABLE trap.by_part (id integer) PARTITION BY RANGE ((evil.fixed(5) + id))",
          "CREATE TABLE trap.part PARTITION OF trap.by_part DEFAULT",
          "CREATE VIEW trap.by_view AS SELECT evil.ring() AS id",
          "CREATE VIEW trap.by_view_of_view AS SELECT * FROM trap.by_view",
          "CREATE VIEW trap.by_constant AS SELECT evil.fixed(3) AS id",
          "CREATE TABLE trap.by_rule (id integer)",
          "ALTER TABLE trap.by_rule ENABLE ROW LEVEL SECURITY",
          "CREATE POLICY p ON trap.by_rule USING (evil.ring() = 1)",
          "INSERT INTO trap.by_rule VALUES (1), (2)",
          "CREATE DOMAIN trap.odd AS integer CHECK (evil.fixed(VALUE) = VALUE)",
          "CREATE TABLE trap.under_domain (id integer)",
          "INSERT INTO trap.under_domain VALUES (1)",
          "CREATE VIEW trap.by_domain AS SELECT id::trap.odd AS id FROM trap.under_domain",
          "CREATE FUNCTION evil.vector() RETURNS tsvector LANGUAGE plpgsql AS"
              + " 'BEGIN PERFORM evil.ring(); RETURN ''a''; END'",
          "CREATE VIEW trap.by_text AS SELECT ndoc AS id FROM ts_stat('SELECT evil.vector()')",
          "CREATE VIEW trap.by_setting AS"
              + " SELECT length(set_config('session_authorization', 'default', false)) AS id",
          "CREATE TYPE trap.pair AS (id integer)",
          "CREATE FUNCTION trap.made(integer) RETURNS trap.pair LANGUAGE plpgsql AS"
              + " 'BEGIN PERFORM evil.ring(); RETURN NULL; END'",
          "CREATE CAST (integer AS trap.pair) WITH FUNCTION trap.made(integer)",
          "CREATE VIEW trap.by_cast AS SELECT id::trap.pair AS id FROM trap.under_domain");

  private static final List<String> READ =
      List.of(
          "by_index",
          "by_partial",
          "by_statistics",
          "by_heir",
          "by_part",
          "by_view",
          "by_view_of_view",
          "by_constant",
          "by_rule",
          "by_domain",
          "by_text",
          "by_cast");

  /** Only writing runs these. */
  private static final List<String> WRITE_TRAPS =
      List.of(
          "CREATE TABLE trap.by_trigger (id integer)",
          "CREATE TRIGGER t BEFORE INSERT OR UPDATE OR DELETE ON trap.by_trigger"
              + " FOR EACH STATEMENT EXECUTE FUNCTION evil.fires()",
          "CREATE TABLE trap.by_default (id integer, d integer DEFAULT evil.fixed(6))",
          "CREATE TABLE trap.by_instead (id integer)",
          "CREATE RULE r AS ON INSERT TO trap.by_instead DO ALSO SELECT evil.fixed(7)",
          "CREATE SEQUENCE trap.numbers",
          "CREATE TABLE trap.by_sequence (id integer, n bigint DEFAULT nextval('trap.numbers'))",
          "CREATE TABLE trap.plain (id integer)");

  @ParameterizedTest
  @ValueSource(ints = {14, 18})
  void nothingOfHersRunsWithOthersRights(int major, @TempDir Path logs) throws Exception {
    try (EmbeddedPostgres postgres = RealPostgresql.withLogs(major, logs)) {
      String url = "jdbc:postgresql://127.0.0.1:" + postgres.getPort() + "/postgres";
      Login root = new Login(url, "postgres", "");
      try (Connection home = RealPostgresql.connect(root, null);
          Statement make = home.createStatement()) {
        Alarm alarm = new Alarm(logs, home);
        make.execute("CREATE DATABASE clean");
        run(RealPostgresql.connect(root, "clean"), "CREATE SCHEMA shop");
        run(RealPostgresql.connect(root, "clean"), SightScenario.tables());
        new SightScenario(SERVER, root, "clean", true).run();
        make.execute("DROP DATABASE clean");
        make.execute("DROP ROLE ann, bob, eve, readers, bosses");
        make.execute("CREATE ROLE mallory LOGIN");
        make.execute("ALTER ROLE mallory SET log_statement = none");
        make.execute("CREATE ROLE victim LOGIN");
        make.execute("CREATE DATABASE estate OWNER mallory");
        try (Connection mallory = RealPostgresql.connect(new Login(url, "mallory", ""), "estate")) {
          build(mallory, alarm.lines());
        }
        make.execute("ALTER ROLE victim SET search_path = evil, public, pg_catalog");
        assertThat(alarm.heard()).isEmpty();
        alarmIsLoud(root, alarm);
        int before = alarm.heard().size();
        attack(root);
        assertThat(alarm.heard()).hasSize(before);
      }
    }
  }

  private static void build(Connection mallory, List<String> statements) throws SQLException {
    run(mallory, List.of("CREATE SCHEMA evil", "CREATE SCHEMA trap", "CREATE SCHEMA shop"), false);
    run(mallory, Alarm.FUNCTIONS, false);
    run(mallory, List.of("GRANT USAGE ON SCHEMA evil, trap TO PUBLIC"), false);
    run(mallory, SightScenario.tables(), false);
    run(mallory, TRAPS, false);
    run(mallory, WRITE_TRAPS, false);
    run(mallory, List.of("GRANT ALL ON ALL TABLES IN SCHEMA trap TO victim"), false);
    Shadows shadows = new Shadows(mallory);
    shadows.collect(statements);
    assertThat(shadows.make(List.of("evil", "public"))).isGreaterThan(500);
    run(
        mallory,
        List.of(
            "ALTER DEFAULT PRIVILEGES GRANT ALL ON TABLES TO PUBLIC",
            "ALTER DATABASE estate SET search_path = evil, public, pg_catalog"),
        true);
  }

  private static void run(Connection connection, String sql) throws SQLException {
    run(connection, List.of(sql));
  }

  private static void run(Connection connection, List<String> statements) throws SQLException {
    run(connection, statements, true);
  }

  private static void run(Connection connection, List<String> statements, boolean close)
      throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
    if (close) {
      connection.close();
    }
  }

  /** Each trap goes off for whoever steps into it; an alarm that is never heard proves nothing. */
  private static void alarmIsLoud(Login root, Alarm alarm) throws Exception {
    for (String trap : READ) {
      int before = alarm.heard().size();
      try (Connection careless = RealPostgresql.connect(root, "estate");
          Statement statement = careless.createStatement()) {
        if (trap.equals("by_rule")) {
          statement.execute("SET SESSION AUTHORIZATION victim");
        }
        // what is constant is worked out while planning, and only when it is looked at
        statement.execute("SET constraint_exclusion = on");
        String looks = trap.equals("by_cast") ? "" : " WHERE id OPERATOR(pg_catalog.>) 0";
        statement.execute("SELECT * FROM trap." + trap + looks);
      } catch (SQLException unusable) {
        // the alarm rings first
      }
      assertThat(alarm.heard().size()).as(trap).isGreaterThan(before);
    }
    int before = alarm.heard().size();
    try (Connection careless = RealPostgresql.connect(root, "estate");
        Statement statement = careless.createStatement()) {
      statement.execute("SELECT count(*) FROM pg_namespace WHERE nspname ~ '^pg_'");
    }
    assertThat(alarm.heard().size()).isGreaterThan(before);
  }

  private static void attack(Login root) throws Exception {
    Access access = SERVER.survey(root, "s", List.of("estate"), Instant.EPOCH, note -> {});
    Trial trial = new Trial(SERVER, root, access.tree());
    Lookup lookup = new Lookup(access);
    Preview preview = new Preview(SERVER, root, access, Clock.systemUTC());
    List<String> all = new ArrayList<>(READ);
    all.add("by_setting");
    all.addAll(
        List.of("by_trigger", "by_default", "by_instead", "by_sequence", "plain", "under_domain"));
    for (String name : all) {
      int node = lookup.node("trap." + name, 0, false).id();
      for (Privilege privilege :
          List.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE)) {
        Trial.Outcome outcome = trial.attempt("victim", privilege, node, 0, null);
        boolean harmless =
            name.equals("plain")
                || name.equals("by_trigger")
                || name.equals("by_sequence")
                || name.equals("under_domain")
                || privilege == Privilege.SELECT
                    && List.of("by_default", "by_instead").contains(name);
        assertThat(outcome.answer())
            .as("%s %s: %s", privilege, name, outcome.why())
            .isEqualTo(harmless ? Trial.Answer.ALLOWED : Trial.Answer.NOT_TRIED);
      }
      try {
        Preview.View view = preview.view(lookup.principal("victim").id(), node);
        preview.live(view, null);
        preview.count(view, null, -1, 3);
      } catch (ServerException refused) {
        assertThat(READ.contains(name) || name.equals("by_setting")).as(name).isTrue();
      }
    }
    new SightScenario(SERVER, root, "estate", true).run();
  }
}
