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
  static final String[] TABLE_PRIVILEGES = {
    "SELECT", "INSERT", "UPDATE", "DELETE", "TRUNCATE", "REFERENCES", "TRIGGER", "ALL"
  };
  static final String[] COLUMN_PRIVILEGES = {"SELECT", "INSERT", "UPDATE", "REFERENCES"};

  private final Connection home;
  private final Connector connector;
  final Random random;
  final int major;
  final List<String> users;
  final List<String> roles;
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

  String odd(String prefix, int i) {
    return prefix + ODD[(i + random.nextInt(3)) % ODD.length].formatted(i);
  }

  static String q(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  String any(String... words) {
    return words[random.nextInt(words.length)];
  }

  boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  String anyone() {
    int dice = random.nextInt(20);
    return dice == 0 ? "PUBLIC" : q(dice < 9 ? any(users) : any(roles));
  }

  String somebody() {
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

  void run(Connection connection, String sql) throws SQLException {
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
        new RandomDatabase(this, connection).build();
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

  String option() {
    return chance(20) ? " WITH GRANT OPTION" : "";
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
