package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.climb.Climb;
import fiador.climb.Climb.Means;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.proofs.Proof;
import fiador.proofs.Prover;
import fiador.proofs.Rung;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Ladders to administrator are really climbed; where there is none, the server refuses. */
class PostgresqlClimbTest {
  /** What only somebody can do who reaches the programs of the server's machine. */
  private static final String LEAVES = "copy (select 1) to program 'cat > /dev/null'";

  private static void run(Login login, String user, String... statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection(login.url(), user, "");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static Climb.Result climb(Login login, String user) throws Exception {
    Access access =
        Forms.of(
            new PostgresqlServer()
                .survey(login, "s", List.of("postgres"), Instant.now(), note -> {}));
    return new Climb(access).of(access.principals().named(user));
  }

  @ParameterizedTest
  @ValueSource(ints = {14, 16, 18})
  void whoManagesRolesIsAdministratorUntil15(int major) throws Exception {
    Login login = RealPostgresql.login(major);
    run(login, "postgres", "create role climber login createrole");
    try {
      Climb.Result result = climb(login, "climber");
      assertThatThrownBy(() -> run(login, "climber", LEAVES)).hasMessageContaining("COPY");
      String give = "grant pg_execute_server_program to climber";
      if (major < 16) {
        assertThat(result.administrator().rungs())
            .extracting(Climb.Rung::means)
            .containsExactly(Means.MANAGES_ROLES, Means.LEAVES_THE_SERVER);
        run(login, "climber", give, LEAVES);
      } else {
        assertThat(result.administrator()).isNull();
        assertThatThrownBy(() -> run(login, "climber", give)).hasMessageContaining("permission");
      }
    } finally {
      run(login, "postgres", "drop role climber");
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {14, 18})
  void whoMayGiveARoleGivesItToItself(int major) throws Exception {
    Login login = RealPostgresql.login(major);
    String admin = major < 16 ? "with admin option" : "with admin true, inherit false, set false";
    run(
        login,
        "postgres",
        "create role upkeep",
        "create role climber login noinherit",
        "grant pg_execute_server_program to upkeep",
        "grant upkeep to climber " + admin);
    try {
      Climb.Result result = climb(login, "climber");
      assertThat(result.administrator()).isNotNull();
      assertThat(result.administrator().rungs().get(result.administrator().rungs().size() - 1))
          .extracting(Climb.Rung::means)
          .isEqualTo(Means.LEAVES_THE_SERVER);
      if (major >= 16) {
        // until 15 every membership counts for that, whether it inherits or not
        assertThatThrownBy(() -> run(login, "climber", LEAVES)).hasMessageContaining("COPY");
      }
      String itself = major < 16 ? "select 1" : "grant upkeep to climber with set true";
      run(login, "climber", itself, "set role upkeep", LEAVES);
    } finally {
      run(login, "postgres", "drop owned by climber", "drop role climber", "drop role upkeep");
    }
  }

  private static Prover.Result neverReads(Login login) throws Exception {
    Access access =
        Forms.of(
            new PostgresqlServer()
                .survey(login, "s", List.of("postgres"), Instant.now(), note -> {}));
    Proof never =
        new Proof.Cannot(new Proof.Who("climber"), Privilege.SELECT, "climbing.secret", true);
    return new Prover(access, Clock.systemUTC()).prove(never);
  }

  /** Each time the way is what is proved, then it is gone. */
  @ParameterizedTest
  @ValueSource(ints = {14, 18})
  void whoNeverCanIsRefusedAndWhoCouldGetsThere(int major) throws Exception {
    Login login = RealPostgresql.login(major);
    String read = "select id from climbing.secret";
    run(
        login,
        "postgres",
        "create role keeper",
        "create role owner",
        "create role climber login",
        "create schema climbing authorization owner",
        "create table climbing.secret (id int)",
        "alter table climbing.secret owner to owner",
        "revoke all on climbing.secret from owner",
        "grant usage on schema climbing to keeper",
        "grant select on climbing.secret to climber");
    try {
      assertThat(neverReads(login).holds()).isTrue();
      assertThatThrownBy(() -> run(login, "climber", read)).hasMessageContaining("permission");
      run(login, "postgres", "grant owner to climber");
      assertThat(neverReads(login).holds()).isFalse();
      run(login, "postgres", "revoke select on climbing.secret from climber");
      assertThat(neverReads(login).ways().values().iterator().next())
          .singleElement()
          .isInstanceOf(Rung.Grants.class);
      assertThatThrownBy(() -> run(login, "climber", read)).hasMessageContaining("permission");
      run(login, "climber", "grant select on climbing.secret to climber", read);

      run(
          login,
          "postgres",
          "revoke owner from climber",
          "revoke all on schema climbing from climber");
      assertThat(neverReads(login).holds()).isTrue();
      String gives = major < 16 ? "with admin option" : "with admin true, inherit false, set false";
      run(login, "postgres", "grant keeper to climber " + gives);
      assertThat(neverReads(login).holds()).isFalse();
      if (major >= 16) {
        assertThat(neverReads(login).ways().values().iterator().next())
            .singleElement()
            .isInstanceOf(Rung.Climbs.class);
        assertThatThrownBy(() -> run(login, "climber", read)).hasMessageContaining("permission");
        run(login, "climber", "grant keeper to climber with inherit true");
      }
      run(login, "climber", read);
    } finally {
      run(
          login,
          "postgres",
          "drop schema climbing cascade",
          "drop owned by climber",
          "drop role climber, keeper, owner");
    }
  }
}
