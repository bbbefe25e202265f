package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.CreateRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Transport;
import fiador.servers.jdbc.Transport.Tls;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.mariadb.RandomMariadb;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * One settle at a time, which no ordinary user can prevent, and which waits for nobody for ever.
 */
final class SettleLockTest {
  private static final Transport HASTY = new Transport(Tls.UNSAID, "", 15, 60, 1);

  private static Login hasty(Login login) {
    return new Login(login.url(), login.user(), login.password(), HASTY, login.user());
  }

  private static void one(Server server, Login login) throws Exception {
    SettleRun first = new SettleRun(server, login, user -> new char[0]);
    SettleRun second = new SettleRun(server, login, user -> new char[0]);
    try (SettleRun.Lock held = first.lock()) {
      assertThat(held.isHeld()).isTrue();
      assertThatThrownBy(second::lock)
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("somebody else is settling")
          .hasMessageContaining(login.user());
    }
    try (SettleRun.Lock held = second.lock()) {
      assertThat(held.isHeld()).isTrue();
    }
  }

  @Test
  void oneAtATimeOnPostgresqlWhateverTheDatabase() throws Exception {
    Login root = hasty(RealPostgresql.login(18));
    one(new PostgresqlServer(), root);
    Login elsewhere = root.at(root.url().replaceFirst("/[^/]*$", "/template1"));
    SettleRun first = new SettleRun(new PostgresqlServer(), elsewhere, user -> new char[0]);
    SettleRun second = new SettleRun(new PostgresqlServer(), root, user -> new char[0]);
    try (SettleRun.Lock held = first.lock()) {
      assertThat(held.isHeld()).isTrue();
      assertThatThrownBy(second::lock).hasMessageContaining("somebody else is settling");
    }
  }

  @Test
  void anOrdinaryUserKeepsNobodyFromSettlingOnPostgresql() throws Exception {
    Login root = hasty(RealPostgresql.login(18));
    try (Connection admin = RealPostgresql.connect(root, null);
        Statement make = admin.createStatement()) {
      make.execute("CREATE ROLE nuisance LOGIN");
      Login nuisance = new Login(root.url(), "nuisance", "");
      try (Connection own = RealPostgresql.connect(nuisance, null);
          Statement take = own.createStatement()) {
        take.execute("SELECT pg_advisory_lock(6090104158)");
        assertThatThrownBy(
                () -> take.execute("LOCK TABLE pg_shseclabel IN SHARE UPDATE EXCLUSIVE MODE"))
            .isInstanceOf(SQLException.class);
        one(new PostgresqlServer(), root);
      }
      make.execute("DROP ROLE nuisance");
    }
  }

  @Test
  void oneAtATimeOnMariadbAndNobodyElsePreventsIt() throws Exception {
    RandomMariadb.clear(RealMariadb.login());
    Login root = hasty(RealMariadb.login());
    MariadbServer server = new MariadbServer();
    one(server, root);
    try (Connection admin = server.connect(root, null);
        Statement make = admin.createStatement()) {
      make.execute("CREATE USER nuisance@'%' IDENTIFIED BY 'n'");
      try (Connection own = server.connect(root.as("nuisance", "n"), null);
          Statement take = own.createStatement()) {
        take.execute("SELECT get_lock('fiador settle', 0)");
        SettleRun run = new SettleRun(server, root, user -> new char[0]);
        try (SettleRun.Lock held = run.lock()) {
          assertThat(held.isHeld()).isTrue();
        }
      }
      make.execute("DROP USER nuisance@'%'");
    }
  }

  @Test
  void aLockThatWasLostStopsTheRunBeforeTheNextStep() throws Exception {
    Login root = hasty(RealPostgresql.login(18));
    SettleRun run = new SettleRun(new PostgresqlServer(), root, user -> new char[0]);
    try (SettleRun.Lock held = run.lock();
        Connection admin = RealPostgresql.connect(root, null);
        Statement kill = admin.createStatement()) {
      assertThat(held.isHeld()).isTrue();
      kill.execute(
          "SELECT pg_terminate_backend(l.pid) FROM pg_locks l"
              + " WHERE l.relation = 'pg_shseclabel'::regclass");
      assertThatThrownBy(
              () -> run.carryOut(List.of(new CreateRole("never")), new Carrying.Nobody()))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("was lost");
    }
  }

  @Test
  void aStatementWaitsForAnotherSessionAWhileAndStopsWithoutAChange() throws Exception {
    Login root = hasty(RealPostgresql.login(18));
    try (Connection admin = RealPostgresql.connect(root, null);
        Statement make = admin.createStatement()) {
      make.execute("CREATE TABLE public.busy (id integer)");
      make.execute("CREATE ROLE waiter");
      Step grant =
          new Grant(
              Privilege.SELECT.bit(),
              new On(NodeKind.TABLE, "postgres", List.of("public", "busy")),
              List.of(),
              "waiter",
              false);
      admin.setAutoCommit(false);
      make.execute("LOCK TABLE public.busy IN ACCESS EXCLUSIVE MODE");
      int[] waits = new int[1];
      Carrying.Nobody counting =
          new Carrying.Nobody() {
            @Override
            public void waits(String sql) {
              waits[0]++;
            }
          };
      SettleRun run = new SettleRun(new PostgresqlServer(), root, user -> new char[0]);
      assertThatThrownBy(() -> run.carryOut(List.of(grant), counting))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("somebody holds what this needs")
          .hasMessageContaining("nothing of this database's part was changed");
      assertThat(waits[0]).isEqualTo(3);
      admin.rollback();
      run.carryOut(List.of(grant), counting);
      admin.setAutoCommit(true);
      make.execute("DROP TABLE public.busy");
      make.execute("DROP ROLE waiter");
    }
  }
}
