package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.Guard;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights.Doubt;
import fiador.servers.Carrying;
import fiador.servers.SightScenario;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.Preview;
import fiador.servers.live.Trial;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A user who may create things in a schema of hers leaves traps for the administrator. */
final class MariadbAttackTest {
  private static final Server SERVER = new MariadbServer();
  private static final Login ROOT = RealMariadb.login();

  /** A setting that only an administrator may change, and no transaction takes back. */
  private static final int RUNG = 4711;

  private static final List<String> TRAPS =
      List.of(
          "CREATE FUNCTION traps.ring() RETURNS integer SQL SECURITY INVOKER"
              + " BEGIN SET GLOBAL max_connect_errors = 4711; RETURN 1; END",
          "CREATE FUNCTION traps.write() RETURNS integer SQL SECURITY INVOKER MODIFIES SQL DATA"
              + " BEGIN INSERT INTO traps.log VALUES (user()); RETURN 1; END",
          "CREATE TABLE traps.log (who varchar(200)) ENGINE = MyISAM",
          "CREATE TABLE traps.plain (id integer)",
          "INSERT INTO traps.plain VALUES (1), (2)",
          "CREATE SQL SECURITY INVOKER VIEW traps.by_view AS SELECT traps.ring() AS id",
          "CREATE SQL SECURITY INVOKER VIEW traps.by_view_of_view AS SELECT id FROM traps.by_view",
          "CREATE SQL SECURITY INVOKER VIEW traps.by_writing AS SELECT traps.write() AS id",
          "CREATE SQL SECURITY INVOKER VIEW traps.by_condition AS SELECT id FROM traps.plain"
              + " WHERE traps.ring() = 1");

  private static final List<String> READ =
      List.of("by_view", "by_view_of_view", "by_writing", "by_condition");

  @BeforeEach
  void build() throws SQLException, ServerException {
    try (Connection admin = SERVER.connect(ROOT, null);
        Statement make = admin.createStatement()) {
      RandomMariadb.clear(make);
      for (String sql :
          List.of(
              "DROP DATABASE IF EXISTS fiador_guard",
              "CREATE DATABASE traps",
              "CREATE USER mallory@'%' IDENTIFIED BY 'm'",
              "CREATE USER victim@'%' IDENTIFIED BY 'v'",
              "GRANT ALL ON traps.* TO mallory@'%'",
              "GRANT SELECT ON traps.* TO victim@'%'")) {
        make.execute(sql);
      }
    }
    as("mallory", "m", TRAPS);
  }

  @AfterEach
  void clear() throws SQLException, ServerException {
    as(
        "root",
        "",
        List.of(
            "SET GLOBAL max_connect_errors = 100",
            "DROP DATABASE traps",
            "DROP DATABASE IF EXISTS fiador_guard",
            "DROP USER mallory@'%', victim@'%'"));
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

  private static boolean rang() throws SQLException, ServerException {
    try (Connection admin = SERVER.connect(ROOT, null);
        Statement ask = admin.createStatement();
        ResultSet row =
            ask.executeQuery(
                "SELECT @@global.max_connect_errors, (SELECT count(*) FROM traps.log)")) {
      row.next();
      return row.getInt(1) == RUNG || row.getInt(2) > 0;
    }
  }

  @Test
  void aCarelessReadSetsTheAlarmOff() throws Exception {
    as("root", "", List.of("SELECT id FROM traps.by_view_of_view"));
    assertThat(rang()).isTrue();
  }

  @Test
  void nothingOfHersRunsWithOthersRights() throws Exception {
    Access access = SERVER.survey(ROOT, "s", List.of(), Instant.EPOCH, note -> {});
    Lookup lookup = new Lookup(access);
    Preview preview = new Preview(SERVER, ROOT, access, Clock.systemUTC());
    int victim = lookup.principal("victim@%").id();
    for (String name : READ) {
      int node = lookup.node("traps." + name, 0, false).id();
      Preview.View view = preview.view(victim, node);
      assertThatThrownBy(() -> preview.count(view, null, -1, 3))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("not harmless");
      if (view.isOpen()) {
        assertThat(preview.live(view, "v").notTried()).as(name).contains("others made");
      }
      Trial trial = new Trial(SERVER, ROOT, access.tree());
      assertThat(trial.attempt("victim@%", Privilege.SELECT, node, -1, null).answer())
          .isEqualTo(Trial.Answer.NOT_TRIED);
    }
    Preview.View plain = preview.view(victim, lookup.node("traps.plain", 0, false).id());
    assertThat(preview.live(plain, "v").digest().rows()).isEqualTo(2);
    as("root", "", List.of("CREATE DATABASE shop"));
    as("root", "", SightScenario.tables());
    new SightScenario(SERVER, ROOT, null, false).run();
    as(
        "root",
        "",
        List.of(
            "DROP DATABASE shop",
            "DROP USER ann@'%', bob@'%', eve@'%'",
            "DROP ROLE readers, bosses"));
    assertThat(rang()).isFalse();
  }

  /** What somebody may have done to it, and undone again by the second statement. */
  private static final Map<String, String> ALTERED = new LinkedHashMap<>();

  static {
    ALTERED.put(
        "GRANT INSERT ON fiador_guard.attributes TO mallory@'%'",
        "REVOKE INSERT ON fiador_guard.attributes FROM mallory@'%'");
    ALTERED.put(
        "GRANT SELECT, ALTER ON `fiador\\_%`.* TO mallory@'%'",
        "REVOKE SELECT, ALTER ON `fiador\\_%`.* FROM mallory@'%'");
    ALTERED.put("CREATE TABLE fiador_guard.more (id integer)", "DROP TABLE fiador_guard.more");
    ALTERED.put(
        "CREATE TRIGGER fiador_guard.t BEFORE INSERT ON fiador_guard.attributes FOR EACH ROW"
            + " SET NEW.value = 'all'",
        "DROP TRIGGER fiador_guard.t");
    ALTERED.put(
        "CREATE FUNCTION fiador_guard.f() RETURNS integer RETURN 1",
        "DROP FUNCTION fiador_guard.f");
    ALTERED.put(
        "ALTER TABLE fiador_guard.attributes ADD more integer",
        "ALTER TABLE fiador_guard.attributes DROP more");
    ALTERED.put(
        "CREATE DEFINER = mallory@'%' VIEW fiador_guard.lookup_x AS SELECT 1 AS value"
            + " FROM fiador_guard.kept",
        "DROP VIEW fiador_guard.lookup_x");
    ALTERED.put(
        "CREATE VIEW fiador_guard.lookup_x AS SELECT traps.ring() AS value FROM fiador_guard.kept",
        "DROP VIEW fiador_guard.lookup_x");
    ALTERED.put(
        "ALTER TABLE fiador_guard.attributes ADD CONSTRAINT c CHECK (value <> 'x')",
        "ALTER TABLE fiador_guard.attributes DROP CONSTRAINT c");
  }

  @Test
  void aGuardThatIsNotAsFiadorMakesItIsNotBelieved() throws Exception {
    Carrying.out(SERVER, ROOT, new Guard(null, true));
    assertThat(doubt()).isNull();
    for (Map.Entry<String, String> altered : ALTERED.entrySet()) {
      as("root", "", List.of(altered.getKey()));
      assertThat(doubt()).as(altered.getKey()).isNotNull();
      assertThat(doubt().foreign()).as(altered.getKey()).isTrue();
      as("root", "", List.of(altered.getValue()));
      assertThat(doubt()).as(altered.getValue()).isNull();
    }
  }

  @Test
  void oneMadeBeforehandIsRefused() throws Exception {
    as("root", "", List.of("GRANT ALL ON `fiador%`.* TO mallory@'%'"));
    assertThatThrownBy(() -> Carrying.out(SERVER, ROOT, new Guard(null, true)))
        .hasMessageContaining("mallory@% has rights on schemas like fiador%");
    List<String> forged =
        new MariadbSight()
            .makeGuard().stream().filter(sql -> !sql.contains("mysql.roles_mapping")).toList();
    as("mallory", "m", forged);
    assertThat(doubt().why())
        .contains("own_attributes acts as mallory@%")
        .contains("mallory@% has rights on schemas like fiador%");
    assertThatThrownBy(() -> Carrying.out(SERVER, ROOT, new Guard(null, true)))
        .isInstanceOf(ServerException.class)
        .hasMessageContaining("not Fiador's own");
  }

  private static Doubt doubt() throws ServerException {
    Access access = SERVER.survey(ROOT, "s", List.of(), Instant.EPOCH, note -> {});
    return access.sights().doubts().get(0);
  }
}
