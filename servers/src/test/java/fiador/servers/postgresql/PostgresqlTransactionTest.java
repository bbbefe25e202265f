package fiador.servers.postgresql;

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
import fiador.servers.live.SettleRun;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What concerns the whole server is undone with the database's part that fails. */
final class PostgresqlTransactionTest {
  private static final SettleRun.Witness NOBODY =
      new SettleRun.Witness() {
        @Override
        public void begins(List<Step> steps) {}

        @Override
        public void done(List<Step> steps, String sql) {}
      };

  private static Step grant(String table) {
    On on = new On(NodeKind.TABLE, "postgres", List.of("public", table));
    return new Grant(Privilege.SELECT.bit(), on, List.of(), "tx_role", false);
  }

  @Test
  void nothingIsLeftOfAFailure() throws Exception {
    PostgresqlServer server = new PostgresqlServer();
    Login login = RealPostgresql.login(18);
    SettleRun run = new SettleRun(server, login, user -> new char[0]);
    try (Connection admin = RealPostgresql.connect(login, "postgres");
        Statement sql = admin.createStatement()) {
      sql.execute("CREATE TABLE public.tx_there (a int)");
      List<Step> steps = List.of(new CreateRole("tx_role"), grant("tx_missing"));
      assertThatThrownBy(() -> run.carryOut(steps, NOBODY))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("tx_missing");
      assertThat(isThere(sql)).isFalse();
      run.carryOut(List.of(new CreateRole("tx_role"), grant("tx_there")), NOBODY);
      assertThat(isThere(sql)).isTrue();
      sql.execute("DROP TABLE public.tx_there");
      sql.execute("DROP ROLE tx_role");
    }
  }

  private static boolean isThere(Statement sql) throws Exception {
    try (ResultSet found = sql.executeQuery("SELECT 1 FROM pg_roles WHERE rolname = 'tx_role'")) {
      return found.next();
    }
  }
}
