package fiador.servers.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.files.houses.HouseSheets;
import fiador.servers.SightConformance;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the core says a user sees is what a stand-in shows, whose policies are its own. */
class StandInSightTest {
  private static final int TABLES = 12;
  private static final int SEEDS = (Integer.getInteger("fiador.seeds", 5) + 1) / 3;

  @TempDir private Path folder;

  @Test
  void everyUserSeesWhatTheCoreSays() throws Exception {
    int cases = 0;
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + SEEDS; seed++) {
      String sheet = HouseSheets.text("dataset");
      SheetServer server = Sheets.of(sheet);
      try (StandIn standIn =
          StandIn.start(
              Settings.local(folder.resolve("s" + seed), sheet, "keeper", "x".toCharArray(), 0))) {
        Login login = new Login("jdbc:standin://127.0.0.1:" + standIn.port() + "/", "keeper", "x");
        try (Connection admin = server.connect(login, null);
            Statement statement = admin.createStatement()) {
          statement.execute("CREATE DATABASE d");
          statement.execute("CREATE SCHEMA d.shop");
          statement.execute("GRANT CONNECT ON SERVER TO EVERYBODY");
          SightConformance run =
              new SightConformance(
                  server, admin, new Naming(server, login), seed, true, false, false, false);
          run.people();
          for (int table = 0; table < TABLES; table++) {
            run.table("shop", table, true);
          }
          cases += run.cases();
        }
      }
    }
    assertThat(cases).isEqualTo(SEEDS * TABLES * 5);
  }

  /** What is the stand-in's own way. */
  private record Naming(SheetServer server, Login login) implements SightConformance.Naming {
    @Override
    public String stored(String name) {
      return name;
    }

    @Override
    public boolean veils() {
      return true;
    }

    @Override
    public String give(String role, String member) {
      return "GRANT ROLE " + role + " TO " + member;
    }

    @Override
    public String makeUser(String name) {
      return "CREATE USER \"" + name + "\" PASSWORD 'x'";
    }

    @Override
    public List<String> letRead(String object) {
      return List.of("GRANT SELECT ON " + object + " TO EVERYBODY");
    }

    @Override
    public Connection session(String user) throws SQLException, ServerException {
      return server.connect(login.as(user, "x"), null);
    }

    @Override
    public List<String> types() {
      return List.of(
          "integer",
          "varchar(200)",
          "varchar(200)",
          "varchar(200)",
          "bigint",
          "decimal(20,4)",
          "date",
          "timestamp",
          "boolean");
    }

    @Override
    public String database() {
      return "d";
    }
  }
}
