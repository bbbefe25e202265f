package fiador.servers.hsqldb;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/** A random estate. */
final class RandomHsqldb {
  private static final String[] ODD = {
    "UP%d", "with blank %d", "dot.ted%d", "quo\"te%d", "ünï%d", "semi;%d", "it's%d", "PLAIN_%d"
  };
  private static final String[] WHAT = {
    "SELECT", "INSERT", "UPDATE", "DELETE", "REFERENCES", "TRIGGER", "ALL PRIVILEGES"
  };
  final Connection admin;
  private final Random random;
  final List<String> users;
  final List<String> roles;
  private final List<String> schemas = new ArrayList<>();
  private final List<String> tables = new ArrayList<>();
  private final List<String> others = new ArrayList<>();
  private final IntPredicate kept;
  final List<String> script = new ArrayList<>();
  int asked;
  int done;

  /** Of whose statements those are carried out that are kept, by number. */
  RandomHsqldb(Connection admin, long seed, IntPredicate kept) {
    this.kept = kept;
    this.admin = admin;
    this.random = new Random(seed);
    this.users = IntStream.range(0, 30).mapToObj(i -> "u" + odd(i)).toList();
    this.roles = IntStream.range(0, 30).mapToObj(i -> "r" + odd(i)).toList();
  }

  private String odd(int i) {
    return ODD[(i + random.nextInt(2)) % ODD.length].formatted(i);
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

  private void run(String sql) {
    if (!kept.test(asked++)) {
      return;
    }
    try {
      execute(admin, sql);
      script.add(sql + ";");
      done++;
    } catch (SQLException senseless) {
      // random statements may be refused; then nothing happens
    }
  }

  void build() {
    roles.forEach(role -> run("CREATE ROLE " + q(role)));
    users.forEach(user -> run("CREATE USER " + q(user) + " PASSWORD 'x'"));
    run("CREATE ROLE \"nobody\"");
    run("CREATE USER \"somebody\" PASSWORD 'x'");
    run("GRANT \"nobody\" TO \"somebody\"");
    for (int i = 0; i < 60; i++) {
      String role = any(roles);
      String member = chance(50) ? any(users) : any(roles);
      run("GRANT " + q(role) + " TO " + q(member));
    }
    run("GRANT DBA TO " + q(any(users)));
    run("GRANT DBA TO " + q(roles.get(29)));
    for (int i = 0; i < 5; i++) {
      String schema = q("s" + odd(i));
      schemas.add(schema);
      String owner = chance(30) ? "DBA" : chance(70) ? q(any(roles)) : q(any(users));
      run("CREATE SCHEMA " + schema + " AUTHORIZATION " + owner);
    }
    for (int i = 0; i < 64; i++) {
      object(i);
    }
    for (int i = 0; i < 170; i++) {
      grant();
    }
    for (int i = 0; i < 15; i++) {
      run("REVOKE " + any(WHAT) + " ON TABLE " + any(tables) + " FROM " + anyone() + " RESTRICT");
    }
  }

  private void object(int i) {
    String name = any(schemas) + "." + q("o" + odd(i));
    int dice = i < 20 ? 0 : random.nextInt(10);
    if (dice < 6) {
      run("CREATE TABLE " + name + " (a int, b int, \"odd C\" int)");
      tables.add(name);
    } else if (dice == 6) {
      run("CREATE VIEW " + name + " AS SELECT a, b FROM " + any(tables));
      others.add("TABLE " + name);
    } else if (dice == 7) {
      run("CREATE SEQUENCE " + name);
      others.add("SEQUENCE " + name);
    } else if (dice == 8) {
      run("CREATE FUNCTION " + name + "(x int) RETURNS int RETURN x + 1");
      others.add("FUNCTION " + name);
    } else {
      run(
          "CREATE PROCEDURE "
              + name
              + "(IN x int) MODIFIES SQL DATA BEGIN ATOMIC DECLARE y int;"
              + " SET y = x; END");
      others.add("PROCEDURE " + name);
    }
  }

  private String anyone() {
    return chance(4) ? "PUBLIC" : chance(40) ? q(any(users)) : q(any(roles));
  }

  private void grant() {
    String option = chance(25) ? " WITH GRANT OPTION" : "";
    if (chance(45)) {
      run("GRANT " + any(WHAT) + " ON TABLE " + any(tables) + " TO " + anyone() + option);
    } else if (chance(60)) {
      String columns = any("(a)", "(b)", "(a, b)", "(\"odd C\")");
      run(
          "GRANT "
              + any("SELECT", "INSERT", "UPDATE", "REFERENCES")
              + columns
              + " ON TABLE "
              + any(tables)
              + " TO "
              + anyone()
              + option);
    } else {
      String object = any(others);
      String what =
          object.startsWith("TABLE") ? "SELECT" : object.startsWith("SEQ") ? "USAGE" : "EXECUTE";
      run("GRANT " + what + " ON " + object + " TO " + anyone() + option);
    }
  }

  static void execute(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  static String q(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }
}
