package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.LeakAttempts;
import fiador.servers.SightConformance;
import fiador.servers.SightScenario;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What the core says a user sees is what MariaDB shows. */
final class MariadbSightTest {
  private static final int TABLES = 12;

  /** Other tests leave accounts, anonymous ones among them. */
  @BeforeAll
  static void alone() throws Exception {
    try (Connection admin = new MariadbServer().connect(RealMariadb.login(), null);
        Statement statement = admin.createStatement()) {
      RandomMariadb.clear(statement);
    }
  }

  @Test
  void everyUserSeesWhatTheCoreSays() throws Exception {
    int cases = 0;
    Server server = new MariadbServer();
    Login login = RealMariadb.login();
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 5); seed++) {
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
      statement.execute("CREATE DATABASE shop CHARACTER SET latin1");
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

  @Test
  void nothingHiddenComesUpWhateverTheUserTries() throws Exception {
    Server server = new MariadbServer();
    Login login = RealMariadb.login();
    try (Connection admin = server.connect(login, null);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE DATABASE vault CHARACTER SET utf8mb4");
      statement.execute("CREATE DATABASE mine CHARACTER SET utf8mb4");
      for (String sql : LeakAttempts.make(server, null, false)) {
        statement.execute(sql);
      }
      statement.execute("CREATE USER spy@'%' IDENTIFIED BY 'p'");
      statement.execute("GRANT ALL ON mine.* TO spy@'%'");
      statement.execute("GRANT SELECT ON vault.t_safe TO spy@'%'");
      try (Connection spy = server.connect(new Login(login.url(), "spy", "p"), null)) {
        assertThat(LeakAttempts.outcome(spy, "SELECT * FROM vault.t_safe"))
            .contains("north")
            .contains("*****");
        LeakAttempts.run(spy, ATTEMPTS);
      }
      statement.execute("DROP DATABASE vault");
      statement.execute("DROP DATABASE mine");
      statement.execute("DROP DATABASE fiador_guard");
      statement.execute("DROP USER spy@'%'");
    }
  }

  private static final List<String> ATTEMPTS =
      List.of(
          "SELECT * FROM vault.t",
          "SELECT phone FROM vault.t",
          "CREATE FUNCTION mine.tell(x varchar(100)) RETURNS int NOT DETERMINISTIC"
              + " BEGIN SET @told = concat(coalesce(@told, ''), x); RETURN 1; END",
          "CREATE FUNCTION mine.sure(x varchar(100)) RETURNS int DETERMINISTIC"
              + " BEGIN SET @told = concat(coalesce(@told, ''), x); RETURN 1; END",
          "SELECT * FROM vault.t_safe WHERE mine.tell(district) = 1",
          "SELECT * FROM vault.t_safe WHERE mine.tell(phone) = 1 OR mine.sure(district) = 1",
          "SELECT a.id FROM vault.t_safe a JOIN vault.t_safe b ON mine.tell(b.district) = a.id",
          "SELECT count(*) FROM vault.t_safe GROUP BY mine.sure(district)",
          "SELECT id FROM vault.t_safe ORDER BY mine.tell(phone)",
          "SELECT @told",
          "SELECT * FROM vault.t_safe WHERE cast(district AS int) = 7",
          "SHOW WARNINGS",
          "SELECT * FROM vault.t_safe WHERE cast(phone AS date) = '2026-01-01'",
          "SHOW WARNINGS",
          "SELECT * FROM vault.t_safe WHERE extractvalue('<a/>', concat('~', district)) = ''",
          "SELECT * FROM vault.t_safe WHERE json_extract(district, '$') = 1",
          "SHOW WARNINGS",
          "SELECT id, district, phone FROM vault.t_safe ORDER BY phone, district",
          "SELECT max(phone), min(district), group_concat(phone), group_concat(district)"
              + " FROM vault.t_safe",
          "CREATE VIEW mine.own AS SELECT * FROM vault.t_safe",
          "SELECT * FROM mine.own WHERE mine.tell(district) = 1",
          "CREATE VIEW mine.under AS SELECT * FROM vault.t",
          "SELECT * FROM mine.under",
          "SET @told = ''",
          "SET SESSION sql_mode = 'NO_BACKSLASH_ESCAPES'",
          "SET NAMES latin1",
          "SET SESSION optimizer_switch = 'derived_merge=on,condition_pushdown_for_derived=on'",
          "SELECT * FROM vault.t_safe WHERE mine.sure(district) = 1",
          "SELECT @told",
          "SET SESSION session_user = 'root'",
          "SET ROLE root",
          "EXPLAIN SELECT * FROM vault.t_safe WHERE district = 'x'",
          "ANALYZE FORMAT=JSON SELECT * FROM vault.t_safe",
          "SHOW CREATE VIEW vault.t_safe",
          "SELECT * FROM fiador_guard.attributes",
          "SELECT * FROM fiador_guard.kept",
          "UPDATE fiador_guard.attributes SET value = 'x'",
          "UPDATE vault.t_safe SET district = 'x'");

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
