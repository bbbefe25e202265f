package fiador.servers.hsqldb;

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
import org.junit.jupiter.api.Test;

/** A user who may create schemas leaves traps; a sequence tells whether anything of hers ran. */
final class HsqldbAttackTest {
  private static final Server SERVER = new HsqldbServer();

  private static final List<String> TRAPS =
      List.of(
          "CREATE SCHEMA TRAPS AUTHORIZATION MALLORY",
          "CREATE SEQUENCE TRAPS.RUNG",
          "CREATE FUNCTION TRAPS.RING() RETURNS BIGINT READS SQL DATA"
              + " RETURN NEXT VALUE FOR TRAPS.RUNG",
          "CREATE TABLE TRAPS.PLAIN (ID BIGINT)",
          "INSERT INTO TRAPS.PLAIN VALUES (1)",
          "CREATE TABLE TRAPS.BY_TRIGGER (ID BIGINT)",
          "CREATE TRIGGER TRAPS.T AFTER DELETE ON TRAPS.BY_TRIGGER"
              + " INSERT INTO TRAPS.PLAIN VALUES (NEXT VALUE FOR TRAPS.RUNG)",
          "CREATE VIEW TRAPS.BY_VIEW AS SELECT TRAPS.RING() AS ID FROM TRAPS.PLAIN",
          "CREATE VIEW TRAPS.BY_VIEW_OF_VIEW AS SELECT ID FROM TRAPS.BY_VIEW",
          "GRANT ALL ON TABLE TRAPS.PLAIN TO VICTIM",
          "GRANT ALL ON TABLE TRAPS.BY_TRIGGER TO VICTIM",
          "GRANT SELECT ON TABLE TRAPS.BY_VIEW TO VICTIM",
          "GRANT SELECT ON TABLE TRAPS.BY_VIEW_OF_VIEW TO VICTIM");

  private final Login root = new Login("jdbc:hsqldb:mem:attack" + System.nanoTime(), "SA", "");

  private void as(String user, List<String> statements) throws SQLException, ServerException {
    try (Connection connection = SERVER.connect(root.as(user, ""), null);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private void build() throws SQLException, ServerException {
    as(
        "SA",
        List.of(
            "CREATE USER MALLORY PASSWORD ''",
            "CREATE USER VICTIM PASSWORD ''",
            "GRANT CREATE_SCHEMA TO MALLORY"));
    as("MALLORY", TRAPS);
  }

  private long rung() throws SQLException, ServerException {
    try (Connection admin = SERVER.connect(root, null);
        Statement ask = admin.createStatement();
        ResultSet row =
            ask.executeQuery(
                "SELECT NEXT_VALUE FROM INFORMATION_SCHEMA.SYSTEM_SEQUENCES"
                    + " WHERE SEQUENCE_NAME = 'RUNG'")) {
      row.next();
      return row.getLong(1);
    }
  }

  @Test
  void nothingOfHersRuns() throws Exception {
    try (Connection keep = SERVER.connect(root, null)) {
      build();
      long quiet = rung();
      as("SA", List.of("SELECT ID FROM TRAPS.BY_VIEW_OF_VIEW"));
      long loud = rung();
      assertThat(loud).isGreaterThan(quiet);
      Access access = SERVER.survey(root, "s", List.of(), Instant.EPOCH, note -> {});
      Lookup lookup = new Lookup(access);
      Preview preview = new Preview(SERVER, root, access, Clock.systemUTC());
      Trial trial = new Trial(SERVER, root, access.tree());
      int victim = lookup.principal("VICTIM").id();
      for (String name : List.of("BY_VIEW", "BY_VIEW_OF_VIEW")) {
        int node = lookup.node("TRAPS." + name, 0, false).id();
        Preview.View view = preview.view(victim, node);
        assertThatThrownBy(() -> preview.count(view, null, -1, 3))
            .hasMessageContaining("not harmless");
        assertThat(preview.live(view, null).notTried()).contains("others made");
        assertThat(trial.attempt("VICTIM", Privilege.SELECT, node, 0, null).answer())
            .isEqualTo(Trial.Answer.NOT_TRIED);
      }
      int table = lookup.node("TRAPS.BY_TRIGGER", 0, false).id();
      for (Privilege privilege :
          List.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE)) {
        assertThat(trial.attempt("VICTIM", privilege, table, 0, null).answer())
            .as(privilege.text())
            .isEqualTo(Trial.Answer.ALLOWED);
      }
      as("SA", List.of("CREATE SCHEMA SHOP AUTHORIZATION DBA"));
      as("SA", SightScenario.tables());
      new SightScenario(SERVER, root, null, false).run();
      assertThat(rung()).isEqualTo(loud);
      keep.createStatement().execute("SHUTDOWN");
    }
  }

  private static final Map<String, String> ALTERED = new LinkedHashMap<>();

  static {
    ALTERED.put("CREATE TABLE FIADOR_GUARD.MORE (ID INTEGER)", "DROP TABLE FIADOR_GUARD.MORE");
    ALTERED.put(
        "ALTER TABLE FIADOR_GUARD.ATTRIBUTES ADD COLUMN MORE INTEGER",
        "ALTER TABLE FIADOR_GUARD.ATTRIBUTES DROP COLUMN MORE");
    ALTERED.put(
        "CREATE TRIGGER FIADOR_GUARD.T BEFORE INSERT ON FIADOR_GUARD.ATTRIBUTES"
            + " REFERENCING NEW ROW AS N FOR EACH ROW SET N.VALUE = 'all'",
        "DROP TRIGGER FIADOR_GUARD.T");
    ALTERED.put(
        "CREATE FUNCTION FIADOR_GUARD.F() RETURNS INTEGER RETURN 1",
        "DROP FUNCTION FIADOR_GUARD.F");
    ALTERED.put(
        "CREATE VIEW FIADOR_GUARD.LOOKUP_X AS SELECT TRAPS.RING() AS VALUE FROM FIADOR_GUARD.KEPT",
        "DROP VIEW FIADOR_GUARD.LOOKUP_X");
  }

  @Test
  void aGuardThatIsNotAsFiadorMakesItIsNotBelieved() throws Exception {
    try (Connection keep = SERVER.connect(root, null)) {
      build();
      Carrying.out(SERVER, root, new Guard(null, true));
      assertThat(doubt()).isNull();
      for (Map.Entry<String, String> altered : ALTERED.entrySet()) {
        as("SA", List.of(altered.getKey()));
        assertThat(doubt()).as(altered.getKey()).isNotNull();
        as("SA", List.of(altered.getValue()));
        assertThat(doubt()).as(altered.getValue()).isNull();
      }
      keep.createStatement().execute("SHUTDOWN");
    }
  }

  @Test
  void oneMadeBeforehandIsRefused() throws Exception {
    try (Connection keep = SERVER.connect(root, null)) {
      build();
      as("MALLORY", List.of("CREATE SCHEMA FIADOR_GUARD AUTHORIZATION MALLORY"));
      assertThat(doubt().why()).containsExactly("it belongs to MALLORY");
      assertThatThrownBy(() -> Carrying.out(SERVER, root, new Guard(null, true)))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("it belongs to MALLORY");
      keep.createStatement().execute("SHUTDOWN");
    }
  }

  /** The server lets her say whose a new schema is, and what she may do there. */
  @Test
  void oneMadeInTheAdministratorsNameIsRefusedToo() throws Exception {
    try (Connection keep = SERVER.connect(root, null)) {
      build();
      List<String> parts = new HsqldbSight().makeGuard();
      // a view in somebody else's name she may not make
      String made = String.join(" ", parts.subList(0, 2)).replace("FIADOR_GUARD.", "");
      as(
          "MALLORY",
          List.of(
              made.replace("IF NOT EXISTS ", "") + " GRANT INSERT ON ATTRIBUTES TO MALLORY",
              "INSERT INTO FIADOR_GUARD.ATTRIBUTES VALUES ('MALLORY', 'DISTRICT', 'all')"));
      assertThat(doubt().why()).containsExactly("MALLORY may insert on ATTRIBUTES");
      keep.createStatement().execute("SHUTDOWN");
    }
  }

  private Doubt doubt() throws ServerException {
    Access access = SERVER.survey(root, "s", List.of(), Instant.EPOCH, note -> {});
    return access.sights().doubts().get(0);
  }
}
