package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.SightConformance;
import fiador.servers.SightScenario;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;

/** What the core says a user sees is what HSQLDB shows. */
final class HsqldbSightTest {
  private static final int TABLES = 12;

  @Test
  void everyUserSeesWhatTheCoreSays() throws Exception {
    int cases = 0;
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 5); seed++) {
      Server server = new HsqldbServer();
      Login login = new Login("jdbc:hsqldb:mem:sight" + seed, "SA", "");
      try (Connection admin = server.connect(login, null);
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA SHOP AUTHORIZATION DBA");
        SightConformance run =
            new SightConformance(
                server, admin, naming(server, login), seed, true, false, false, false);
        run.people();
        for (int table = 0; table < TABLES; table++) {
          run.table("shop", table, false);
        }
        cases += run.cases();
        statement.execute("SHUTDOWN");
      }
    }
    assertThat(cases).isGreaterThanOrEqualTo(300);
  }

  @Test
  void policiesOfACharterAreSettledChangedAndUndone() throws Exception {
    Server server = new HsqldbServer();
    Login login = new Login("jdbc:hsqldb:mem:policies", "SA", "");
    try (Connection admin = server.connect(login, null);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE SCHEMA SHOP AUTHORIZATION DBA");
      for (String sql : SightScenario.tables()) {
        statement.execute(sql);
      }
      new SightScenario(server, login, null, false).run();
      statement.execute("SHUTDOWN");
    }
  }

  private static SightConformance.Naming naming(Server server, Login login) {
    return new SightConformance.Naming() {
      @Override
      public String stored(String name) {
        return name.toUpperCase(Locale.ROOT);
      }

      @Override
      public String makeUser(String name) {
        return "CREATE USER \"" + name + "\" PASSWORD ''";
      }

      @Override
      public List<String> letRead(String object) {
        return List.of("GRANT SELECT ON " + object + " TO PUBLIC");
      }

      @Override
      public Connection session(String user) throws SQLException, ServerException {
        return server.connect(new Login(login.url(), user, ""), null);
      }

      @Override
      public List<String> types() {
        return List.of(
            "INTEGER",
            "VARCHAR(200)",
            "VARCHAR_IGNORECASE(200)",
            "CHARACTER(6)",
            "BIGINT",
            "DECIMAL(20,4)",
            "DATE",
            "TIMESTAMP(6)",
            "BOOLEAN");
      }

      @Override
      public String database() {
        return null;
      }
    };
  }
}
