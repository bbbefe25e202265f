package fiador.servers.sheet;

import java.sql.Connection;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntPredicate;

/** A random estate on a Derby. */
final class RandomDerby extends RandomDeeds {
  private static final String[] WHAT = {
    "SELECT", "INSERT", "UPDATE", "DELETE", "REFERENCES", "TRIGGER", "ALL PRIVILEGES"
  };
  private final List<String> views = new ArrayList<>();
  private final List<String> others = new ArrayList<>();

  RandomDerby(Connection admin, long seed, IntPredicate kept) {
    super(admin, seed, 14, kept);
  }

  @Override
  void build() {
    roles.forEach(role -> run("CREATE ROLE " + q(role)));
    users.forEach(user -> run("CALL SYSCS_UTIL.SYSCS_CREATE_USER(" + user(user) + ", 'x')"));
    run("CALL SYSCS_UTIL.SYSCS_CREATE_USER('SOMEBODY', 'x')");
    for (int i = 0; i < 30; i++) {
      giveRole(4);
    }
    for (int i = 0; i < 5; i++) {
      String schema = q("s" + odd(i));
      schemas.add(schema);
      String owner = chance(40) ? "BOSS" : chance(20) ? q(any(roles)) : q(any(users));
      run("CREATE SCHEMA " + schema + " AUTHORIZATION " + owner);
    }
    for (int i = 0; i < 36; i++) {
      object(i);
    }
    for (int i = 0; i < 110; i++) {
      grant("GRANT ", " TO ", "");
    }
    for (int i = 0; i < 15; i++) {
      grant("REVOKE ", " FROM ", " RESTRICT");
    }
    for (int i = 0; i < 3; i++) {
      run("REVOKE " + q(any(roles)) + " FROM " + q(chance(50) ? any(users) : any(roles)));
    }
  }

  /** A name in quotes, in a text. */
  static String user(String name) {
    return "'" + q(name).replace("'", "''") + "'";
  }

  private void object(int i) {
    String name = any(schemas) + "." + q("o" + odd(i));
    int dice = i < 14 ? 0 : below(10);
    if (dice < 5) {
      run("CREATE TABLE " + name + " (a int, b int, \"odd C\" int)");
      tables.add(name);
    } else if (dice < 7) {
      run("CREATE VIEW " + name + " AS SELECT a, b FROM " + any(tables));
      views.add(name);
    } else if (dice == 7) {
      run("CREATE SEQUENCE " + name);
      others.add("USAGE ON SEQUENCE " + name);
    } else if (dice == 8) {
      run(
          "CREATE FUNCTION "
              + name
              + "(x int) RETURNS int LANGUAGE JAVA PARAMETER STYLE JAVA NO SQL"
              + " EXTERNAL NAME 'java.lang.Math.abs'");
      others.add("EXECUTE ON FUNCTION " + name);
    } else {
      run(
          "CREATE PROCEDURE "
              + name
              + "() LANGUAGE JAVA PARAMETER STYLE JAVA NO SQL"
              + " EXTERNAL NAME 'java.lang.Thread.yield'");
      others.add("EXECUTE ON PROCEDURE " + name);
    }
  }

  private void grant(String verb, String preposition, String ending) {
    String who = preposition + (chance(4) ? "PUBLIC" : q(chance(40) ? any(users) : any(roles)));
    if (chance(40)) {
      run(verb + any(WHAT) + " ON TABLE " + any(tables) + who);
    } else if (chance(50)) {
      String columns = any("(a)", "(b)", "(a, b)", "(\"odd C\")");
      String what = any("SELECT", "UPDATE", "REFERENCES");
      run(verb + what + columns + " ON TABLE " + any(tables) + who);
    } else if (chance(50) && !views.isEmpty()) {
      run(verb + "SELECT ON TABLE " + any(views) + who);
    } else if (!others.isEmpty()) {
      run(verb + any(others) + who + ending);
    }
  }
}
