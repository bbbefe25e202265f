package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Guard;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;
import fiador.policies.Seeing;
import fiador.servers.LeakAttempts;
import fiador.servers.SightConformance;
import fiador.servers.SightScenario;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.Preview;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
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
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 5); seed++) {
      String database = "sight" + seed;
      try (Connection start = RealPostgresql.connect(login, null);
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
    try (Connection start = RealPostgresql.connect(login, null);
        Statement create = start.createStatement()) {
      create.execute("CREATE DATABASE policies");
      try (Connection admin = RealPostgresql.connect(login, "policies");
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA shop");
        for (String sql : SightScenario.tables()) {
          statement.execute(sql);
        }
        statement.execute("ALTER DEFAULT PRIVILEGES GRANT ALL ON TABLES TO PUBLIC");
      }
      new SightScenario(server, login, "policies", true).run();
      create.execute("DROP DATABASE policies");
      create.execute("DROP ROLE ann, bob, eve, readers, bosses");
    }
  }

  @Test
  void indexesAreFoundThroughANewViewAndAnOldOneKeepsItsTypes() throws Exception {
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(VERSION);
    try (Connection start = RealPostgresql.connect(login, null);
        Statement create = start.createStatement()) {
      create.execute("CREATE DATABASE indexes");
      try (Connection admin = RealPostgresql.connect(login, "indexes");
          Statement statement = admin.createStatement()) {
        for (String sql :
            List.of(
                "CREATE SCHEMA s",
                "CREATE TABLE s.t (id int PRIMARY KEY, name varchar(9), phone varchar(9))",
                "INSERT INTO s.t SELECT n, 'n' || n, n FROM generate_series(1, 20000) n",
                "CREATE TABLE s.o AS SELECT * FROM s.t",
                "CREATE VIEW s.o_safe AS SELECT id::bigint, name::text, phone::text FROM s.o",
                "ANALYZE")) {
          statement.execute(sql);
        }
        run(server, statement, new Guard("indexes", true));
        run(server, statement, new ShowSafely(null, safe("t", "keep_last(1)")));
        assertThat(LeakAttempts.outcome(admin, "EXPLAIN SELECT name FROM s.t_safe WHERE id = 77"))
            .contains("Index Scan using t_pkey");
        assertThat(types(admin, "t_safe"))
            .isEqualTo("integer, character varying, character varying");
        run(server, statement, new ShowSafely(safe("o", "stars"), safe("o", "keep_last(1)")));
        assertThat(types(admin, "o_safe")).isEqualTo("bigint, text, text");
        assertThat(LeakAttempts.outcome(admin, "SELECT * FROM s.o_safe WHERE id = 77"))
            .isEqualTo("77|n77|*7|\n");
      }
      create.execute("DROP DATABASE indexes");
    }
  }

  private static void run(Server server, Statement statement, Step step) throws SQLException {
    for (String sql : server.dialect().statements(step)) {
      statement.execute(sql);
    }
  }

  private static String types(Connection admin, String view) throws SQLException {
    return LeakAttempts.outcome(
            admin,
            "SELECT string_agg(data_type, ', ' ORDER BY ordinal_position)"
                + " FROM information_schema.columns WHERE table_name = '"
                + view
                + "'")
        .replace("|\n", "");
  }

  private static SafeView safe(String table, String mask) {
    return new SafeView(
        new On(NodeKind.VIEW, "indexes", List.of("s", table + "_safe")),
        new On(NodeKind.TABLE, "indexes", List.of("s", table)),
        List.of(
            new SafeColumn("id", ColumnType.INTEGER),
            new SafeColumn("name", ColumnType.TEXT),
            new SafeColumn("phone", ColumnType.TEXT)),
        "mask\tm\ttrue\tphone\t" + mask + "\n",
        false,
        null);
  }

  @Test
  void rulesWrittenByHandAreUnderstoodOrSaidNotToBe() throws Exception {
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(VERSION);
    try (Connection start = RealPostgresql.connect(login, null);
        Statement create = start.createStatement()) {
      create.execute("CREATE DATABASE rules");
      create.execute("CREATE ROLE una LOGIN");
      create.execute("CREATE ROLE duo LOGIN");
      create.execute("CREATE ROLE crew");
      create.execute("GRANT crew TO duo");
      try (Connection admin = RealPostgresql.connect(login, "rules");
          Statement statement = admin.createStatement()) {
        for (String sql :
            List.of(
                "CREATE TABLE public.h (id int, district text, who varchar(20), day date)",
                "INSERT INTO h VALUES (1, 'north', 'una', '2026-01-01'), (2, 'hills', 'una', NULL),"
                    + " (3, 'delta', 'duo', '2025-01-01'), (4, NULL, NULL, '2024-01-01')",
                "GRANT SELECT ON h TO PUBLIC",
                "ALTER TABLE h ENABLE ROW LEVEL SECURITY",
                "CREATE POLICY own ON h USING (who = current_user OR district IN ('delta', 'x'))",
                "CREATE POLICY crews ON h FOR SELECT TO crew USING (day < '2025-06-01')",
                "CREATE POLICY not_four ON h AS RESTRICTIVE USING (NOT id = 4 AND id <> 9)",
                "CREATE TABLE public.odd (id int)",
                "GRANT SELECT ON odd TO PUBLIC",
                "ALTER TABLE odd ENABLE ROW LEVEL SECURITY",
                "CREATE POLICY far ON odd USING (id IN (SELECT h.id FROM h))")) {
          statement.execute(sql);
        }
      }
      Access access =
          server.survey(login, "s", List.of("rules"), java.time.Instant.EPOCH, note -> {});
      assertThat(shown(server, login, access, "una", "h")).isEqualTo(3);
      assertThat(shown(server, login, access, "duo", "h")).isEqualTo(1);
      assertThat(shown(server, login, access, "postgres", "h")).isEqualTo(4);
      int odd = new Lookup(access).node("public.odd", 0, false).id();
      int una = new Lookup(access).principal("una").id();
      Seeing.Answer answer = new Seeing(access).of(una, odd);
      assertThat(answer.isKnown()).isFalse();
      assertThat(answer.beyond()).extracting(Sights.Rule::name).containsExactly("far");
      create.execute("DROP DATABASE rules");
      create.execute("DROP ROLE una, duo, crew");
    }
  }

  /** How many rows a user gets by the simulation, once the server gave the same. */
  private static long shown(Server server, Login login, Access access, String name, String table)
      throws Exception {
    Preview preview = new Preview(server, login, access, Clock.systemUTC());
    int user = new Lookup(access).principal(name).id();
    Preview.View view =
        preview.view(user, new Lookup(access).node("public." + table, 0, false).id());
    Preview.Count count = preview.count(view, null, -1, 0);
    assertThat(preview.live(view, null).digest().sameAs(count.digest())).as(name).isTrue();
    return count.shown();
  }

  @Test
  void nothingHiddenComesUpWhateverTheUserTries() throws Exception {
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(VERSION);
    try (Connection start = RealPostgresql.connect(login, null);
        Statement create = start.createStatement()) {
      create.execute("CREATE DATABASE leaks");
      create.execute("CREATE ROLE spy LOGIN");
      try (Connection admin = RealPostgresql.connect(login, "leaks");
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA vault");
        statement.execute("CREATE SCHEMA mine AUTHORIZATION spy");
        for (String sql : LeakAttempts.make(server, "leaks", true)) {
          statement.execute(sql);
        }
        statement.execute("GRANT USAGE ON SCHEMA vault TO spy");
        statement.execute("GRANT SELECT ON vault.t_safe, vault.f TO spy");
        statement.execute("ANALYZE vault.t; ANALYZE vault.f");
      }
      try (Connection spy = RealPostgresql.connect(new Login(login.url(), "spy", ""), "leaks")) {
        assertThat(LeakAttempts.outcome(spy, "SELECT * FROM vault.t_safe"))
            .contains("north")
            .contains("*****");
        assertThat(LeakAttempts.outcome(spy, "SELECT * FROM vault.f")).contains("north");
        LeakAttempts.run(spy, ATTEMPTS);
      }
      create.execute("DROP DATABASE leaks");
      create.execute("DROP ROLE spy");
    }
  }

  private static final List<String> ATTEMPTS =
      List.of(
          "SELECT * FROM vault.t",
          "CREATE FUNCTION mine.tell(x text) RETURNS boolean LANGUAGE plpgsql COST 0.0001"
              + " AS $$ BEGIN RAISE NOTICE 'told %', x; RETURN true; END $$",
          "CREATE FUNCTION mine.sure(x text) RETURNS boolean IMMUTABLE LEAKPROOF LANGUAGE plpgsql"
              + " AS $$ BEGIN RAISE NOTICE 'told %', x; RETURN true; END $$",
          "SELECT * FROM vault.t_safe WHERE mine.tell(district)",
          "SELECT * FROM vault.t_safe WHERE mine.tell(phone)",
          "SELECT * FROM vault.f WHERE mine.tell(district)",
          "SELECT * FROM vault.f WHERE mine.tell(f::text)",
          "SELECT * FROM vault.f a JOIN vault.f b ON mine.tell(b.district)",
          "SELECT count(*) FROM vault.f GROUP BY mine.tell(district)",
          "CREATE OPERATOR mine.<<< (FUNCTION = texteq, LEFTARG = text, RIGHTARG = text)",
          "SELECT * FROM vault.f WHERE district OPERATOR(mine.<<<) 'x'",
          "SELECT * FROM vault.t_safe WHERE cast(district AS integer) = 7",
          "SELECT * FROM vault.t_safe WHERE cast(phone AS date) = '2026-01-01'",
          "SELECT * FROM vault.f WHERE cast(district AS integer) = 7",
          "SELECT * FROM vault.f WHERE 1 / (CASE WHEN district LIKE 'hidden%' THEN 0 ELSE 1 END) > 0",
          "SELECT max(phone), string_agg(district, ',') FROM vault.t_safe",
          "SELECT string_agg(district, ',') FROM vault.f",
          "SELECT id, phone FROM vault.t_safe ORDER BY phone",
          "CREATE VIEW mine.own AS SELECT * FROM vault.f",
          "SELECT * FROM mine.own WHERE mine.tell(district)",
          "CREATE VIEW mine.under AS SELECT * FROM vault.t",
          "SELECT * FROM mine.under",
          "SET row_security = off",
          "SELECT * FROM vault.f",
          "RESET row_security",
          "SET session_authorization = 'postgres'",
          "SET ROLE postgres",
          "SET search_path = mine, pg_catalog",
          "SELECT * FROM vault.f",
          "EXPLAIN (VERBOSE, COSTS) SELECT * FROM vault.f WHERE district = 'x'",
          "EXPLAIN (ANALYZE, VERBOSE) SELECT * FROM vault.t_safe",
          "SELECT most_common_vals::text, histogram_bounds::text FROM pg_stats"
              + " WHERE schemaname = 'vault'",
          "COPY vault.f TO STDOUT",
          "SELECT * FROM fiador_guard.attributes",
          "SELECT * FROM fiador_guard.digest_key",
          "INSERT INTO fiador_guard.own_attributes VALUES ('districts', 'x')",
          "UPDATE vault.f SET district = 'y' WHERE mine.tell(district) RETURNING district",
          "DELETE FROM vault.f RETURNING district");

  private static int run(Server server, Login login, String database, long seed) throws Exception {
    try (Connection admin = RealPostgresql.connect(login, database);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE SCHEMA shop");
      statement.execute("GRANT USAGE ON SCHEMA shop TO PUBLIC");
      SightConformance run =
          new SightConformance(
                  server, admin, naming(server, login, database), seed, true, true, true, true)
              .askingSessions();
      run.people();
      for (int table = 0; table < TABLES; table++) {
        run.table("shop", table, table % 3 == 0);
      }
      for (int table = 0; table < TABLES / 3; table++) {
        run.writing("shop", table);
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
        Connection session = RealPostgresql.connect(login, database);
        try (Statement statement = session.createStatement()) {
          statement.execute(server.dialect().become(user));
          statement.execute("SET application_name = 'trial'");
        }
        return session;
      }

      @Override
      public List<String> types() {
        return List.of(
            "integer",
            "text",
            "varchar(200) COLLATE \"POSIX\"",
            "character(6) COLLATE \"ucs_basic\"",
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
