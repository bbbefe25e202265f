package fiador.servers.postgresql;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/** Builds a random estate on a real server and takes it down again. */
final class RandomEstate implements AutoCloseable {
  private static final String[] ODD = {
    "Upper%d", "with blank %d", "dot.ted%d", "quo\"te%d", "ünïcödé%d", "semi;%d", "dollar$%d",
    "back\\slash%d", "new\nline%d", "it's%d", "plain_%d", "a-dash%d", "(paren)%d", "select%d"
  };
  private static final String[] TABLE_PRIVILEGES = {
    "SELECT", "INSERT", "UPDATE", "DELETE", "TRUNCATE", "REFERENCES", "TRIGGER", "ALL"
  };
  private static final String[] COLUMN_PRIVILEGES = {"SELECT", "INSERT", "UPDATE", "REFERENCES"};

  private final Connection home;
  private final Connector connector;
  private final Random random;
  private final int major;
  private final List<String> users;
  private final List<String> roles;
  final List<String> databases = new ArrayList<>();
  private final List<String> script = new ArrayList<>();
  private final IntPredicate kept;
  private int refused;
  private int done;
  private int asked;

  /** Opens a connection to a database. */
  interface Connector {
    Connection to(String database) throws Exception;
  }

  RandomEstate(Connection home, Connector connector, int major, long seed) {
    this(home, connector, major, seed, number -> true);
  }

  /**
   * As the other, of fewer statements.
   *
   * @param kept which of them are carried out, by number; those that make databases always are
   */
  RandomEstate(Connection home, Connector connector, int major, long seed, IntPredicate kept) {
    this.kept = kept;
    this.home = home;
    this.connector = connector;
    this.major = major;
    this.random = new Random(seed);
    this.users = IntStream.range(0, 32).mapToObj(i -> odd("u", i)).toList();
    this.roles = IntStream.range(0, 32).mapToObj(i -> odd("r", i)).toList();
  }

  /** How many statements were carried out; those the server refuses do not count. */
  int done() {
    return done;
  }

  private String odd(String prefix, int i) {
    return prefix + ODD[(i + random.nextInt(3)) % ODD.length].formatted(i);
  }

  static String q(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  private <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  private String any(String... words) {
    return words[random.nextInt(words.length)];
  }

  private boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  private String anyone() {
    int dice = random.nextInt(20);
    return dice == 0 ? "PUBLIC" : q(dice < 9 ? any(users) : any(roles));
  }

  private String somebody() {
    return q(chance(40) ? any(users) : any(roles));
  }

  /** How many statements there are, done or not. */
  int asked() {
    return asked;
  }

  /** The statements that made it. */
  List<String> script() {
    return script;
  }

  private void run(Connection connection, String sql) throws SQLException {
    if (!kept.test(asked++) && !sql.startsWith("CREATE DATABASE")) {
      return;
    }
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
      done++;
      script.add(sql + ";");
    } catch (SQLException no) {
      // random statements may be senseless; the server says so and nothing happens
      refused++;
      if (refused > 400) {
        throw no;
      }
    }
  }

  void build() throws Exception {
    for (String role : roles) {
      run(home, "CREATE ROLE " + q(role) + (chance(20) ? " NOINHERIT" : ""));
    }
    for (String user : users) {
      run(home, "CREATE ROLE " + q(user) + " LOGIN" + (chance(25) ? " NOINHERIT" : ""));
    }
    run(home, "ALTER ROLE " + q(users.get(0)) + " SUPERUSER");
    run(home, "ALTER ROLE " + q(roles.get(0)) + " SUPERUSER");
    run(home, "ALTER ROLE " + q(users.get(1)) + " CREATEROLE CREATEDB BYPASSRLS");
    memberships();
    for (int i = 0; i < 2; i++) {
      String database = i == 0 ? "db_" + random.nextInt(1000) : "Db odd.\"" + random.nextInt(1000);
      databases.add(database);
      run(home, "CREATE DATABASE " + q(database) + " OWNER " + somebody());
      databaseRights(database);
      try (Connection connection = connector.to(database)) {
        new Contents(connection).build();
      }
    }
  }

  private void memberships() throws SQLException {
    List<String> all = new ArrayList<>(roles);
    all.addAll(users);
    for (int i = 0; i < 90; i++) {
      int role = random.nextInt(chance(90) ? roles.size() : all.size());
      int member = Math.min(all.size() - 1, role + 1 + random.nextInt(all.size() - 1));
      if (chance(40)) {
        member = roles.size() + random.nextInt(users.size());
      }
      give(q(all.get(role)), q(all.get(member)));
    }
    List<String> predefined =
        new ArrayList<>(
            List.of("pg_read_all_data", "pg_write_all_data", "pg_monitor", "pg_signal_backend"));
    if (major >= 17) {
      predefined.add("pg_maintain");
    }
    for (String role : predefined) {
      give(role, somebody());
      give(role, q(any(roles)));
    }
    give(q(roles.get(0)), q(any(users)));
    give(q(roles.get(0)), q(any(roles)));
    give(q(users.get(0)), q(any(users)));
  }

  private void give(String role, String member) throws SQLException {
    String options = "";
    if (major >= 16) {
      List<String> parts = new ArrayList<>();
      if (chance(30)) {
        parts.add("ADMIN " + any("TRUE", "FALSE"));
      }
      if (chance(50)) {
        parts.add("INHERIT " + any("TRUE", "FALSE"));
      }
      if (chance(50)) {
        parts.add("SET " + any("TRUE", "FALSE"));
      }
      options = parts.isEmpty() ? "" : " WITH " + String.join(", ", parts);
    } else if (chance(20)) {
      options = " WITH ADMIN OPTION";
    }
    String by = major >= 16 && chance(15) ? " GRANTED BY " + somebody() : "";
    run(home, "GRANT " + role + " TO " + member + options + by);
  }

  private void databaseRights(String database) throws SQLException {
    if (chance(50)) {
      run(
          home,
          "REVOKE "
              + any("CONNECT", "TEMPORARY", "ALL")
              + " ON DATABASE "
              + q(database)
              + " FROM PUBLIC");
    }
    for (int i = 0; i < 14; i++) {
      run(
          home,
          "GRANT "
              + any("CONNECT", "CREATE", "TEMPORARY", "ALL")
              + " ON DATABASE "
              + q(database)
              + " TO "
              + (chance(10) ? "pg_database_owner" : somebody())
              + option());
    }
    if (chance(30)) {
      run(
          home,
          "REVOKE " + any("CREATE", "ALL") + " ON DATABASE " + q(database) + " FROM CURRENT_USER");
    }
  }

  private String option() {
    return chance(20) ? " WITH GRANT OPTION" : "";
  }

  /** What is in one database. */
  private final class Contents {
    private final Connection connection;
    private final List<String> schemas = new ArrayList<>();
    private final List<String> relations = new ArrayList<>();
    private final List<String> readable = new ArrayList<>();
    private final List<String> sequences = new ArrayList<>();
    private final List<String> routines = new ArrayList<>();

    Contents(Connection connection) {
      this.connection = connection;
    }

    private void sql(String text) throws SQLException {
      run(connection, text);
    }

    void build() throws SQLException {
      schemas();
      if (chance(70)) {
        laterGrants();
      }
      for (int i = 0; i < 40; i++) {
        object(i);
      }
      partitions();
      for (int i = 0; i < 130; i++) {
        grant();
      }
      for (int i = 0; i < 25; i++) {
        revoke();
      }
      if (chance(50)) {
        sql("ALTER TABLE " + any(readable) + " DROP COLUMN c2");
      }
    }

    private void schemas() throws SQLException {
      schemas.add("public");
      for (int i = 0; i < 5; i++) {
        String name = q(odd("s", i));
        schemas.add(name);
        sql(
            "CREATE SCHEMA "
                + name
                + " AUTHORIZATION "
                + (chance(15) ? "pg_database_owner" : somebody()));
      }
      for (String schema : schemas) {
        if (chance(40)) {
          sql("GRANT USAGE ON SCHEMA " + schema + " TO PUBLIC");
        }
        for (int i = 0; i < 7; i++) {
          sql(
              "GRANT "
                  + any("USAGE", "USAGE", "CREATE", "ALL")
                  + " ON SCHEMA "
                  + schema
                  + " TO "
                  + anyone()
                  + option());
        }
      }
    }

    private void laterGrants() throws SQLException {
      for (int i = 0; i < 5; i++) {
        String in = chance(60) ? " IN SCHEMA " + any(schemas) : "";
        sql(
            "ALTER DEFAULT PRIVILEGES"
                + in
                + any(
                    " GRANT SELECT ON TABLES TO ", " GRANT ALL ON SEQUENCES TO ",
                    " GRANT EXECUTE ON ROUTINES TO ", " GRANT INSERT, DELETE ON TABLES TO ")
                + anyone());
      }
      if (chance(50)) {
        sql("ALTER DEFAULT PRIVILEGES REVOKE EXECUTE ON ROUTINES FROM PUBLIC");
      }
    }

    private void object(int i) throws SQLException {
      String name = any(schemas) + "." + q(odd("o", i));
      int dice = i < 12 ? 0 : random.nextInt(12);
      switch (dice) {
        case 0, 1, 2, 3 -> {
          sql("CREATE TABLE " + name + " (c0 int, c1 text, c2 int, \"odd Col\"\"umn\" int)");
          relations.add(name);
          readable.add(name);
        }
        case 4, 5, 6 -> view(name);
        case 7 -> {
          sql("CREATE MATERIALIZED VIEW " + name + " AS SELECT 1 AS c0, 2 AS c1");
          relations.add(name);
        }
        case 8, 9 -> {
          sql("CREATE SEQUENCE " + name);
          sequences.add(name);
        }
        case 10 -> {
          sql("CREATE FUNCTION " + name + "(a int, b text) RETURNS int LANGUAGE sql AS 'SELECT 1'");
          routines.add("FUNCTION " + name + "(int, text)");
        }
        default -> {
          sql("CREATE PROCEDURE " + name + "(a int, OUT b int) LANGUAGE sql AS 'SELECT 1'");
          routines.add("ROUTINE " + name);
        }
      }
      if (chance(80)) {
        String kind =
            dice < 4
                ? "TABLE"
                : dice < 7
                    ? "VIEW"
                    : dice == 7 ? "MATERIALIZED VIEW" : dice < 10 ? "SEQUENCE" : "ROUTINE";
        sql(
            "ALTER "
                + kind
                + " "
                + name
                + " OWNER TO "
                + (chance(8) ? "pg_database_owner" : somebody()));
      }
    }

    private void view(String name) throws SQLException {
      String options = major >= 15 && chance(40) ? " WITH (security_invoker = true)" : "";
      String columns = any("c0, c1", "c0 + 1 AS c0, c1", "c0, 'x'::text AS c1");
      String from = any(readable);
      String body = "SELECT " + columns + " FROM " + from;
      if (chance(20)) {
        body = "SELECT count(*)::int AS c0, 'n'::text AS c1 FROM " + from;
      } else if (chance(20)) {
        body = "SELECT a.c0, b.c1 FROM " + from + " a, " + any(readable) + " b";
      } else if (!routines.isEmpty() && routines.get(0).startsWith("FUNCTION") && chance(50)) {
        String function = routines.get(0).substring(9).replace("(int, text)", "(1, 'x')");
        body = "SELECT " + function + " AS c0, c1 FROM " + from;
      }
      sql("CREATE VIEW " + name + options + " AS " + body);
      relations.add(name);
      readable.add(name);
    }

    private void partitions() throws SQLException {
      String parent = any(schemas) + ".parent";
      sql("CREATE TABLE " + parent + " (c0 int, c1 text) PARTITION BY LIST (c0)");
      sql("CREATE TABLE " + any(schemas) + ".part PARTITION OF " + parent + " FOR VALUES IN (1)");
      sql("ALTER TABLE " + parent + " OWNER TO " + somebody());
      relations.add(parent);
    }

    private void grant() throws SQLException {
      int dice = random.nextInt(20);
      String what;
      if (dice < 9) {
        what = any(TABLE_PRIVILEGES) + " ON TABLE " + any(relations);
      } else if (dice < 14) {
        what =
            any(COLUMN_PRIVILEGES)
                + " ("
                + any("c0", "c1", "c0, c1", "c2", "ctid")
                + ") ON TABLE "
                + any(relations);
      } else if (dice < 16 && !sequences.isEmpty()) {
        what = any("USAGE", "SELECT", "UPDATE", "ALL") + " ON SEQUENCE " + any(sequences);
      } else if (dice < 18 && !routines.isEmpty()) {
        what = "EXECUTE ON " + any(routines);
      } else if (dice == 18) {
        what = any("SELECT", "ALL") + " ON ALL TABLES IN SCHEMA " + any(schemas);
      } else {
        what = "USAGE ON SCHEMA " + any(schemas);
      }
      if (major >= 17 && chance(8)) {
        what = "MAINTAIN ON TABLE " + any(relations);
      }
      String statement = "GRANT " + what + " TO " + anyone() + option();
      if (chance(20)) {
        // by somebody who may or may not have the grant option
        sql("SET SESSION AUTHORIZATION " + somebody());
        sql(statement);
        sql("RESET SESSION AUTHORIZATION");
      } else {
        sql(statement);
      }
    }

    private void revoke() throws SQLException {
      int dice = random.nextInt(10);
      if (dice < 4) {
        // an owner may take rights from himself and keeps the grant option
        sql(
            "DO $$ DECLARE o text; BEGIN SELECT quote_ident(rolname) INTO o FROM pg_class c JOIN"
                + " pg_roles r ON r.oid = relowner WHERE c.oid = "
                + literal(any(relations))
                + "::regclass; EXECUTE 'REVOKE "
                + any("SELECT", "INSERT", "ALL")
                + " ON TABLE ' || "
                + literal(any(relations))
                + " || ' FROM ' || o; END $$");
      } else if (dice < 6 && !routines.isEmpty()) {
        sql("REVOKE EXECUTE ON " + any(routines) + " FROM PUBLIC");
      } else if (dice < 7) {
        sql("REVOKE SELECT (c0) ON TABLE " + any(relations) + " FROM " + anyone());
      } else {
        sql(
            "REVOKE "
                + any(TABLE_PRIVILEGES)
                + " ON TABLE "
                + any(relations)
                + " FROM "
                + anyone()
                + any("", " CASCADE"));
      }
    }

    private String literal(String text) {
      return "E'" + text.replace("\\", "\\\\").replace("'", "''") + "'";
    }
  }

  @Override
  public void close() throws SQLException {
    takeDown();
  }

  /** Makes room for another of the same names. */
  void takeDown() throws SQLException {
    try (Statement statement = home.createStatement()) {
      for (String database : databases) {
        statement.execute("DROP DATABASE IF EXISTS " + q(database) + " WITH (FORCE)");
      }
      dropRoles(statement);
    }
  }

  private void dropRoles(Statement statement) throws SQLException {
    List<String> left = new ArrayList<>(users);
    left.addAll(roles);
    // a role that gave memberships on cannot be dropped before those it gave them to
    SQLException last = null;
    for (int round = 0; round < 20 && !left.isEmpty(); round++) {
      List<String> still = new ArrayList<>();
      for (String role : left) {
        try {
          statement.execute("DROP ROLE IF EXISTS " + q(role));
        } catch (SQLException stillNeeded) {
          last = stillNeeded;
          still.add(role);
        }
      }
      left = still;
    }
    if (!left.isEmpty()) {
      throw last;
    }
  }
}
