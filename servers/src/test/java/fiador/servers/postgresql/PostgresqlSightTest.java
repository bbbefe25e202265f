package fiador.servers.postgresql;

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
import org.junit.jupiter.api.Test;

/** What the core says a user sees is what PostgreSQL shows, through its own filters and views. */
final class PostgresqlSightTest {
  private static final int TABLES = 12;
  private static final int VERSION = 18;

  @Test
  void everyUserSeesWhatTheCoreSays() throws Exception {
    int cases = 0;
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(VERSION);
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 6); seed++) {
      String database = "sight" + seed;
      try (Connection start = server.connect(login, null);
          Statement statement = start.createStatement()) {
        statement.execute("CREATE DATABASE " + database);
        cases += run(server, login, database, seed);
        statement.execute("DROP DATABASE " + database);
        for (String name : List.of("u0", "u1", "u2", "u3", "u4")) {
          statement.execute("DROP ROLE " + name);
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
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(VERSION);
    try (Connection start = server.connect(login, null);
        Statement create = start.createStatement()) {
      create.execute("CREATE DATABASE policies");
      try (Connection admin = server.connect(login, "policies");
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA shop");
        for (String sql : SightScenario.tables()) {
          statement.execute(sql);
        }
      }
      new SightScenario(server, login, "policies", true).run();
      create.execute("DROP DATABASE policies");
      create.execute("DROP ROLE ann, bob, eve, readers, bosses");
    }
  }

  private static int run(Server server, Login login, String database, long seed) throws Exception {
    try (Connection admin = server.connect(login, database);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE SCHEMA shop");
      statement.execute("GRANT USAGE ON SCHEMA shop TO PUBLIC");
      SightConformance run =
          new SightConformance(
              server, admin, naming(server, login, database), seed, true, true, true, true);
      run.people();
      for (int table = 0; table < TABLES; table++) {
        run.table("shop", table, table % 3 == 0);
      }
      return run.cases();
    }
  }

  private static SightConformance.Naming naming(Server server, Login login, String database) {
    return new SightConformance.Naming() {
      @Override
      public String stored(String name) {
        return name;
      }

      @Override
      public String makeUser(String name) {
        return "CREATE ROLE \"" + name + "\" LOGIN";
      }

      @Override
      public List<String> letRead(String object) {
        return List.of("GRANT SELECT ON " + object + " TO PUBLIC");
      }

      @Override
      public Connection session(String user) throws SQLException, ServerException {
        Connection session = server.connect(login, database);
        try (Statement statement = session.createStatement()) {
          statement.execute(server.dialect().become(user));
        }
        return session;
      }

      @Override
      public List<String> types() {
        return List.of(
            "integer",
            "text",
            "varchar(200)",
            "character(6)",
            "bigint",
            "numeric(20,4)",
            "date",
            "timestamp",
            "boolean");
      }

      @Override
      public String database() {
        return database;
      }
    };
  }
}
