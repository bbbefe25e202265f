package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.Login;
import fiador.servers.Server;
import fiador.servers.ServerException;
import fiador.servers.SightConformance;
import fiador.servers.SightScenario;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** What the core says a user sees is what MariaDB shows. */
final class MariadbSightTest {
  private static final int TABLES = 12;

  @Test
  void everyUserSeesWhatTheCoreSays() throws Exception {
    int cases = 0;
    Server server = new MariadbServer();
    Login login = RealMariadb.login();
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 6); seed++) {
      try (Connection admin = server.connect(login, null);
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE DATABASE sight CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci");
        SightConformance run =
            new SightConformance(
                server, admin, naming(server, login), seed, false, true, true, true);
        run.people();
        for (int table = 0; table < TABLES; table++) {
          run.table("sight", table, false);
        }
        cases += run.cases();
        statement.execute("DROP DATABASE sight");
        statement.execute("DROP DATABASE fiador_guard");
        for (String name : List.of("u0", "u1", "u2", "u3", "u4")) {
          statement.execute("DROP USER " + name + "@'%'");
        }
        for (String name : List.of("alpha", "beta", "gamma", "delta")) {
          statement.execute("DROP ROLE " + name);
        }
      }
    }
    assertThat(cases).isGreaterThanOrEqualTo(300);
  }

  @Test
  void policiesOfACharterAreSettledChangedAndUndone() throws Exception {
    Server server = new MariadbServer();
    Login login = RealMariadb.login();
    try (Connection admin = server.connect(login, null);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE DATABASE shop CHARACTER SET utf8mb4");
      for (String sql : SightScenario.tables()) {
        statement.execute(sql);
      }
      new SightScenario(server, login, null, false).run();
      for (String sql :
          List.of(
              "DROP DATABASE shop",
              "DROP DATABASE fiador_guard",
              "DROP USER ann@'%', bob@'%', eve@'%'",
              "DROP ROLE readers, bosses")) {
        statement.execute(sql);
      }
    }
  }

  private static SightConformance.Naming naming(Server server, Login login) {
    return new SightConformance.Naming() {
      @Override
      public String stored(String name) {
        return name;
      }

      @Override
      public String makeUser(String name) {
        return "CREATE USER " + name + "@'%' IDENTIFIED BY 'p'";
      }

      @Override
      public String member(String name) {
        return name.startsWith("u") ? name + "@%" : name;
      }

      @Override
      public List<String> letRead(String object) {
        return IntStream.range(0, 5)
            .mapToObj(i -> "GRANT SELECT ON " + object + " TO u" + i + "@'%'")
            .toList();
      }

      @Override
      public Connection session(String user) throws SQLException, ServerException {
        return server.connect(new Login(login.url(), user, "p"), null);
      }

      @Override
      public List<String> types() {
        return List.of(
            "integer",
            "varchar(200)",
            "varchar(200) COLLATE utf8mb4_unicode_ci",
            "char(6)",
            "bigint",
            "decimal(20,4)",
            "date",
            "datetime(6)");
      }

      @Override
      public String database() {
        return null;
      }
    };
  }
}
