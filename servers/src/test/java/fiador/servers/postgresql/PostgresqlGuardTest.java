package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.Guard;
import fiador.changes.steps.SetAttribute;
import fiador.grants.Access;
import fiador.grants.Sights.Doubt;
import fiador.servers.Carrying;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A guarded schema is believed only where nobody but an administrator can have made what it says.
 */
final class PostgresqlGuardTest {
  private static final Server SERVER = new PostgresqlServer();

  /** What somebody may have done to it, and undone again by the second statement. */
  private static final Map<String, String> ALTERED = new LinkedHashMap<>();

  static {
    ALTERED.put(
        "GRANT INSERT ON fiador_guard.attributes TO intruder",
        "REVOKE ALL ON fiador_guard.attributes FROM intruder");
    ALTERED.put(
        "GRANT UPDATE (value) ON fiador_guard.attributes TO intruder",
        "REVOKE UPDATE (value) ON fiador_guard.attributes FROM intruder");
    ALTERED.put(
        "GRANT CREATE ON SCHEMA fiador_guard TO intruder",
        "REVOKE CREATE ON SCHEMA fiador_guard FROM intruder");
    ALTERED.put(
        "GRANT SELECT ON fiador_guard.attributes TO PUBLIC",
        "REVOKE SELECT ON fiador_guard.attributes FROM PUBLIC");
    ALTERED.put(
        "ALTER TABLE fiador_guard.kept OWNER TO intruder",
        "ALTER TABLE fiador_guard.kept OWNER TO postgres");
    ALTERED.put(
        "ALTER SCHEMA fiador_guard OWNER TO intruder",
        "ALTER SCHEMA fiador_guard OWNER TO postgres");
    ALTERED.put(
        "CREATE FUNCTION fiador_guard.f() RETURNS integer LANGUAGE sql AS 'select 1'",
        "DROP FUNCTION fiador_guard.f()");
    ALTERED.put("CREATE TABLE fiador_guard.more (id integer)", "DROP TABLE fiador_guard.more");
    ALTERED.put(
        "ALTER TABLE fiador_guard.attributes ALTER value SET DEFAULT 'x'",
        "ALTER TABLE fiador_guard.attributes ALTER value DROP DEFAULT");
    ALTERED.put(
        "ALTER TABLE fiador_guard.attributes ADD more text",
        "ALTER TABLE fiador_guard.attributes DROP more");
    ALTERED.put(
        "ALTER TABLE fiador_guard.attributes ADD CONSTRAINT c CHECK (value <> 'x')",
        "ALTER TABLE fiador_guard.attributes DROP CONSTRAINT c");
    ALTERED.put(
        "ALTER TABLE fiador_guard.attributes ENABLE ROW LEVEL SECURITY",
        "ALTER TABLE fiador_guard.attributes DISABLE ROW LEVEL SECURITY");
    ALTERED.put(
        "CREATE RULE r AS ON INSERT TO fiador_guard.attributes DO INSTEAD NOTHING",
        "DROP RULE r ON fiador_guard.attributes");
    ALTERED.put(
        "ALTER VIEW fiador_guard.own_attributes RESET (security_barrier)",
        "ALTER VIEW fiador_guard.own_attributes SET (security_barrier = true)");
    ALTERED.put(
        "CREATE OR REPLACE VIEW fiador_guard.own_attributes WITH (security_barrier = true) AS"
            + " SELECT a.attribute, a.value FROM fiador_guard.attributes a",
        "CREATE OR REPLACE VIEW fiador_guard.own_attributes WITH (security_barrier = true) AS"
            + " SELECT a.attribute, a.value FROM fiador_guard.attributes a"
            + " WHERE a.user_name = SESSION_USER::text");
    ALTERED.put(
        "CREATE TABLE public.heir () INHERITS (fiador_guard.attributes)", "DROP TABLE public.heir");
    ALTERED.put(
        "ALTER TABLE fiador_guard.digest_key RENAME TO lookup_x",
        "ALTER TABLE fiador_guard.lookup_x RENAME TO digest_key");
  }

  @ParameterizedTest
  @ValueSource(ints = {14, 16, 18})
  void whateverIsNotAsFiadorMakesItIsNotBelieved(int version) throws Exception {
    Login root = RealPostgresql.login(version);
    try (Connection home = RealPostgresql.connect(root, null);
        Statement make = home.createStatement()) {
      make.execute("CREATE DATABASE guarded");
      make.execute("CREATE ROLE intruder");
      try (Connection admin = RealPostgresql.connect(root, "guarded");
          Statement alter = admin.createStatement()) {
        Carrying.out(SERVER, root, new Guard("guarded", true));
        assertThat(doubt(root)).isNull();
        for (Map.Entry<String, String> altered : ALTERED.entrySet()) {
          alter.execute(altered.getKey());
          assertThat(doubt(root)).as(altered.getKey()).isNotNull();
          assertThat(doubt(root).foreign()).as(altered.getKey()).isTrue();
          alter.execute(altered.getValue());
          assertThat(doubt(root)).as(altered.getValue()).isNull();
        }
      }
      make.execute("DROP DATABASE guarded");
      make.execute("DROP ROLE intruder");
    }
  }

  @Test
  void oneMadeBeforehandToTheLetterIsRefused() throws Exception {
    Login root = RealPostgresql.login(18);
    try (Connection home = RealPostgresql.connect(root, null);
        Statement make = home.createStatement()) {
      make.execute("CREATE ROLE forger LOGIN");
      make.execute("CREATE DATABASE forged OWNER forger");
      try (Connection forger =
              RealPostgresql.connect(new Login(root.url(), "forger", ""), "forged");
          Statement forge = forger.createStatement()) {
        for (String sql : new PostgresqlSight().makeGuard()) {
          forge.execute(sql);
        }
        forge.execute("INSERT INTO fiador_guard.attributes VALUES ('forger', 'district', 'all')");
      }
      List<String> notes = new ArrayList<>();
      Access access = SERVER.survey(root, "s", List.of("forged"), Instant.EPOCH, notes::add);
      assertThat(access.sights().attributes()).isEmpty();
      assertThat(access.sights().guards()).isEmpty();
      assertThat(access.sights().doubts().values())
          .containsExactly(new Doubt(true, List.of("it belongs to forger")));
      assertThat(notes).singleElement().asString().contains("it belongs to forger");
      assertThatThrownBy(
              () ->
                  Carrying.out(
                      SERVER,
                      root,
                      new SetAttribute("forged", "ann", "district", List.of(), List.of("north"))))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("it belongs to forger");
      make.execute("DROP DATABASE forged");
      make.execute("DROP ROLE forger");
    }
  }

  @Test
  void aReaderWithoutSuperuserSeesWhatItIsGivenAndSaysTheRest() throws Exception {
    Login root = RealPostgresql.login(18);
    try (Connection home = RealPostgresql.connect(root, null);
        Statement make = home.createStatement()) {
      make.execute("CREATE DATABASE kept");
      make.execute("CREATE ROLE reader LOGIN");
      Login reader = new Login(root.url(), "reader", "");
      Carrying.out(SERVER, root, new Guard("kept", true));
      Carrying.out(
          SERVER, root, new SetAttribute("kept", "ann", "district", List.of(), List.of("north")));
      assertThat(kept(reader).doubts().values())
          .singleElement()
          .satisfies(doubt -> assertThat(doubt.foreign()).isFalse());
      try (Connection admin = RealPostgresql.connect(root, "kept");
          Statement grant = admin.createStatement()) {
        grant.execute("GRANT SELECT ON fiador_guard.attributes, fiador_guard.kept TO reader");
        assertThat(kept(reader).attributes()).hasSize(1);
        grant.execute("REVOKE ALL ON fiador_guard.attributes, fiador_guard.kept FROM reader");
      }
      make.execute("DROP DATABASE kept");
      make.execute("DROP ROLE reader");
    }
  }

  private static fiador.grants.Sights kept(Login login) throws ServerException {
    return SERVER.survey(login, "s", List.of("kept"), Instant.EPOCH, note -> {}).sights();
  }

  private static Doubt doubt(Login root) throws ServerException {
    Access access = SERVER.survey(root, "s", List.of("guarded"), Instant.EPOCH, note -> {});
    return access.sights().doubts().values().stream().findFirst().orElse(null);
  }
}
