package fiador.servers.mariadb;

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
import org.assertj.core.api.InstanceOfAssertFactories;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Ladders to administrator are really climbed. */
class MariadbClimbTest {
  private static final String SECRETS = "select count(*) from mysql.global_priv";

  private final Login login = RealMariadb.login();

  private void run(String user, String secret, String... statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection(login.url(), user, secret);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  /** Other tests leave accounts, and rights of everybody, on the server they share. */
  @BeforeAll
  static void alone() throws Exception {
    RandomMariadb.clear(RealMariadb.login());
  }

  @BeforeEach
  void accounts() throws SQLException {
    run(
        "root",
        "",
        "create database climbing",
        "create user boss@'127.0.0.1' identified by 'b'",
        "grant all on *.* to boss@'127.0.0.1' with grant option",
        "create user climber@'127.0.0.1' identified by 'c'");
  }

  @AfterEach
  void noAccounts() throws SQLException {
    run("root", "", "drop database climbing", "drop user boss@'127.0.0.1', climber@'127.0.0.1'");
  }

  private Means means() throws Exception {
    Access access =
        Forms.of(new MariadbServer().survey(login, "s", List.of(), Instant.now(), note -> {}));
    Climb.Result result = new Climb(access).of(access.principals().named("climber@127.0.0.1"));
    return result.administrator() == null ? null : result.administrator().rungs().get(0).means();
  }

  @Test
  void whoMakesAccountsSetsAnAdministratorsSecret() throws Exception {
    assertThat(means()).isNull();
    assertThatThrownBy(() -> run("climber", "c", SECRETS)).hasMessageContaining("denied");
    run("root", "", "grant create user on *.* to climber@'127.0.0.1'");
    assertThat(means()).isEqualTo(Means.SETS_SECRETS);
    run("climber", "c", "alter user boss@'127.0.0.1' identified by 'mine'");
    run("boss", "mine", SECRETS);
  }

  @Test
  void whoMakesRoutinesInAnyNameActsAsAnAdministrator() throws Exception {
    run("root", "", "grant set user on *.* to climber@'127.0.0.1'");
    assertThat(means()).isNull();
    run("root", "", "grant create routine on climbing.* to climber@'127.0.0.1'");
    assertThat(means()).isEqualTo(Means.ACTS_IN_HIS_NAME);
    run(
        "climber",
        "c",
        "create definer = boss@'127.0.0.1' procedure climbing.p()"
            + " grant select on *.* to climber@'127.0.0.1'",
        "call climbing.p()");
    run("climber", "c", SECRETS);
  }

  @Test
  void whoWritesAccountsGivesItselfEverything() throws Exception {
    run("root", "", "grant select, update on mysql.global_priv to climber@'127.0.0.1'");
    assertThat(means()).isEqualTo(Means.WRITES_ACCOUNTS);
    String all = "select count(*) from mysql.db";
    assertThatThrownBy(() -> run("climber", "c", all)).hasMessageContaining("denied");
    run(
        "climber",
        "c",
        "update mysql.global_priv set priv = json_set(priv, '$.access', 18446744073709551615)"
            + " where user = 'climber'");
    // as after a restart
    run("root", "", "flush privileges");
    run("climber", "c", all);
  }

  private Prover.Result neverReads() throws Exception {
    Access access =
        Forms.of(new MariadbServer().survey(login, "s", List.of(), Instant.now(), note -> {}));
    Proof never =
        new Proof.Cannot(new Proof.Who("climber"), Privilege.SELECT, "climbing.secret", true);
    return new Prover(access, Clock.systemUTC()).prove(never);
  }

  @Test
  void whoMovesATableReadsItWhereTheyMayRead() throws Exception {
    run(
        "root",
        "",
        "create table climbing.secret (id int)",
        "insert into climbing.secret values (7)",
        "create database climbers",
        "grant alter, drop on climbing.secret to climber@'127.0.0.1'",
        "grant select, create on climbers.* to climber@'127.0.0.1'");
    try {
      String move = "rename table climbing.secret to climbers.secret";
      assertThat(neverReads().holds()).isTrue();
      assertThatThrownBy(() -> run("climber", "c", move)).hasMessageContaining("denied");
      run("root", "", "grant insert on climbers.* to climber@'127.0.0.1'");
      assertThat(neverReads().ways().values())
          .singleElement()
          .asInstanceOf(InstanceOfAssertFactories.LIST)
          .singleElement()
          .isInstanceOf(Rung.Moves.class);
      String read = "select id from climbing.secret";
      assertThatThrownBy(() -> run("climber", "c", read)).hasMessageContaining("denied");
      run("climber", "c", move, "select id from climbers.secret");
    } finally {
      run("root", "", "drop database climbers");
    }
  }
}
