package fiador.servers.sheet;

import java.sql.Connection;
import java.util.function.IntPredicate;

/** A random estate on an H2. */
final class RandomH2 extends RandomDeeds {
  private static final String[] WHAT = {"SELECT", "INSERT", "UPDATE", "DELETE", "ALL"};

  RandomH2(Connection admin, long seed, IntPredicate kept) {
    super(admin, seed, 20, kept);
  }

  @Override
  void build() {
    roles.forEach(role -> run("CREATE ROLE " + q(role)));
    users.forEach(user -> run("CREATE USER " + q(user) + " PASSWORD 'x'"));
    run("CREATE USER \"somebody\" PASSWORD 'x'");
    for (int i = 0; i < 40; i++) {
      giveRole(3);
    }
    run("ALTER USER " + q(any(users)) + " ADMIN TRUE");
    if (chance(50)) {
      run("GRANT ALTER ANY SCHEMA TO " + q(chance(50) ? any(users) : any(roles)));
    }
    for (int i = 0; i < 5; i++) {
      String schema = q("s" + odd(i));
      schemas.add(schema);
      String owner = chance(30) ? "SA" : chance(60) ? q(any(roles)) : q(any(users));
      run("CREATE SCHEMA " + schema + " AUTHORIZATION " + owner);
    }
    for (int i = 0; i < 40; i++) {
      object(i);
    }
    for (int i = 0; i < 140; i++) {
      String on = chance(15) ? "SCHEMA " + any(schemas) : any(tables);
      String what = chance(30) ? any(WHAT) + ", " + any(WHAT) : any(WHAT);
      run("GRANT " + what + " ON " + on + " TO " + anyone());
    }
    for (int i = 0; i < 15; i++) {
      String on = chance(15) ? "SCHEMA " + any(schemas) : any(tables);
      run("REVOKE " + any(WHAT) + " ON " + on + " FROM " + anyone());
    }
    for (int i = 0; i < 3; i++) {
      run("REVOKE " + q(any(roles)) + " FROM " + q(chance(50) ? any(users) : any(roles)));
    }
  }

  private void object(int i) {
    String name = any(schemas) + "." + q("o" + odd(i));
    int dice = i < 15 ? 0 : below(10);
    if (dice < 6) {
      run("CREATE TABLE " + name + " (a int, b int, \"odd C\" int)");
      tables.add(name);
    } else if (dice < 9) {
      run("CREATE VIEW " + name + " AS SELECT a, b FROM " + any(tables));
      tables.add(name);
    } else {
      run("CREATE SEQUENCE " + name);
    }
  }

  private String anyone() {
    return chance(4) ? "PUBLIC" : q(chance(40) ? any(users) : any(roles));
  }
}
