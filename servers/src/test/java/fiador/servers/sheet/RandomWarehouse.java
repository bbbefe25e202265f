package fiador.servers.sheet;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.function.IntPredicate;

/** A random estate on a stand-in. */
final class RandomWarehouse extends RandomDeeds {
  private static final String[] WHAT = {"SELECT", "INSERT", "UPDATE", "DELETE", "ALL"};
  private static final String[] LABELS = {"low", "high", "\"per\"\"son\""};
  private final RandomHouse house;
  private final Function<String, Connection> sessions;
  private final List<String> databases = new ArrayList<>();

  /** What was sealed, and by whom. */
  final Map<String, String> sealed = new LinkedHashMap<>();

  /**
   * One that is not made yet.
   *
   * @param sessions opens one as a user whose secret is {@code x}; null where they cannot log in
   */
  RandomWarehouse(
      Connection admin,
      long seed,
      RandomHouse house,
      Function<String, Connection> sessions,
      IntPredicate kept) {
    super(admin, seed, 8, kept);
    this.house = house;
    this.sessions = sessions;
  }

  @Override
  void build() {
    roles.forEach(role -> run("CREATE ROLE " + q(role)));
    users.forEach(user -> run("CREATE USER " + q(user) + " PASSWORD 'x'"));
    run("CREATE ROLE \"SOMEBODY\"");
    memberships();
    if (house.databases()) {
      for (int i = 0; i < 2; i++) {
        databases.add(q("d" + odd(i)));
        run("CREATE DATABASE " + databases.get(i));
      }
    }
    for (int i = 0; i < 4; i++) {
      String name = q("s" + odd(i));
      schemas.add(house.databases() ? any(databases) + "." + name : name);
      run("CREATE SCHEMA " + schemas.get(i));
    }
    for (int i = 0; i < 16; i++) {
      object(i);
    }
    owners();
    for (int i = 0; i < 9 && house.labels(); i++) {
      label();
    }
    run("GRANT CONNECT ON SERVER TO " + (chance(60) ? "EVERYBODY" : anyone()));
    for (int i = 0; i < (house.sealed() == null ? 1 : 2); i++) {
      // what is sealed is to be tried by those whom nothing else keeps out
      run("GRANT POWER 'read everything' TO " + q(chance(50) ? any(users) : any(roles)));
      run("GRANT POWER 'superuser' TO " + q(chance(50) ? any(users) : any(roles)));
    }
    for (int i = 0; i < 110; i++) {
      if ((i == 50 || i == 80) && house.sealed() != null) {
        // whoever administers gives nothing there from then on
        seal();
      }
      right(admin, "GRANT ", " TO ");
    }
    for (int i = 0; i < 22; i++) {
      right(admin, "REFUSE ", " TO ");
    }
    for (int i = 0; i < 8; i++) {
      right(admin, "REVOKE ", " FROM ");
    }
    right(admin, "LIFT ", " FOR ");
    run("DROP ROLE " + q(any(roles)));
  }

  private void memberships() {
    for (int i = 0; i < 18; i++) {
      // circles too
      String member = chance(6) ? "EVERYBODY" : q(chance(50) ? any(users) : any(roles));
      run("GRANT ROLE " + q(any(roles)) + " TO " + member);
    }
    for (int i = 0; i < 6 && house.oneAtATime(); i++) {
      run("ALTER USER " + q(any(users)) + " DEFAULT ROLE " + q(any(roles)));
    }
  }

  private void object(int i) {
    String name = any(schemas) + "." + q("o" + odd(i));
    if (i < 6 || chance(50)) {
      run("CREATE TABLE " + name + " (a integer, b integer, \"odd C\" integer)");
      tables.add("TABLE " + name);
    } else {
      String reads = chance(30) ? " READS AS ASKER" : "";
      String from = any(tables).replaceFirst("^\\w+ ", "");
      run("CREATE VIEW " + name + reads + " AS SELECT a, b FROM " + from);
      tables.add("VIEW " + name);
    }
  }

  /** Puts a label on something, or on a column. */
  private void label() {
    String label = "PUT LABEL " + any(LABELS) + " ON ";
    int dice = below(10);
    if (dice == 0 && house.databases()) {
      run(label + "DATABASE " + any(databases));
    } else if (dice < 3) {
      run(label + "SCHEMA " + any(schemas));
    } else {
      run(label + any(tables) + (dice < 6 ? "" : " (" + any("a", "b") + ")"));
    }
  }

  private void owners() {
    List<String> things = new ArrayList<>(tables);
    schemas.forEach(schema -> things.add("SCHEMA " + schema));
    databases.forEach(database -> things.add("DATABASE " + database));
    for (int i = 0; i < 14; i++) {
      run("ALTER " + any(things) + " OWNER TO " + q(chance(50) ? any(users) : any(roles)));
    }
  }

  /**
   * Gives a container to a user, who seals it, lets others in and shows something of it elsewhere.
   */
  private void seal() {
    String kind = house.sealed().toUpperCase(Locale.ROOT);
    String name = any(kind.equals("SCHEMA") ? schemas : databases);
    String on = kind + " " + name;
    for (String view : tables) {
      if (view.startsWith("VIEW ") && !view.startsWith("VIEW " + name + ".")) {
        run("DROP " + view);
      }
    }
    String user = any(users);
    String guest = any(users);
    String let = house.rolesOnly() ? q(any(roles)) : q(guest);
    if (house.rolesOnly()) {
      run("GRANT ROLE " + let + " TO " + q(guest));
    }
    run("GRANT CREATE, USAGE ON SCHEMA " + any(schemas) + " TO " + let);
    run("ALTER " + on + " OWNER TO " + q(user));
    run("GRANT " + house.key() + " ON " + on + " TO " + q(house.rolesOnly() ? any(roles) : user));
    run("GRANT CONNECT ON SERVER TO " + q(house.rolesOnly() ? any(roles) : user));
    try (Connection theirs = sessions.apply(user)) {
      if (theirs == null) {
        return;
      }
      run(theirs, "ALTER USER " + q(user) + " PASSWORD 'x'");
      if (!run(theirs, "SEAL " + on)) {
        return;
      }
      sealed.put(on, user);
      for (int i = 0; i < 4; i++) {
        run(theirs, "GRANT " + house.key() + " ON " + on + " TO " + anyone());
        right(theirs, chance(80) ? "GRANT " : "REFUSE ", " TO ");
      }
      show(theirs, q(user), name);
      String key = house.key() + " ON " + on;
      run(theirs, "GRANT " + key + " TO " + let);
      run(theirs, "GRANT SELECT, USAGE ON " + on + " TO " + let);
      for (String table : tables) {
        if (table.startsWith("TABLE " + name + ".")) {
          run(theirs, "GRANT SELECT ON " + table + " TO " + let);
        }
      }
      try (Connection guests = sessions.apply(guest)) {
        if (guests != null) {
          run(guests, "SET ROLE " + let);
          show(guests, let, name);
          show(guests, let, name);
        }
      }
      if (chance(60)) {
        // what they showed stays there, and they are out
        run(theirs, "REVOKE " + key + " FROM " + let);
      }
    } catch (SQLException closed) {
      throw new IllegalStateException(closed);
    }
  }

  /** Somebody shows something of it elsewhere, as themselves or as whoever asks. */
  private void show(Connection theirs, String who, String inside) {
    String schema = any(schemas);
    String from = any(tables).replaceFirst("^\\w+ ", "");
    for (String each : tables) {
      if (chance(50) && each.startsWith("TABLE " + inside + ".")) {
        from = each.replaceFirst("^\\w+ ", "");
      }
    }
    run("GRANT CREATE ON SCHEMA " + schema + " TO " + who);
    String view = schema + "." + q("shown " + tables.size());
    String reads = chance(50) ? " READS AS ASKER" : "";
    if (run(theirs, "CREATE VIEW " + view + reads + " AS SELECT a, b FROM " + from)) {
      tables.add("VIEW " + view);
      run(theirs, "GRANT SELECT ON VIEW " + view + " TO " + anyone());
      run("GRANT USAGE ON SCHEMA " + schema + " TO " + anyone());
    }
  }

  /** Takes the seals away again, as far as whoever made them is still in. */
  boolean unseal() throws SQLException {
    boolean all = true;
    for (Map.Entry<String, String> each : sealed.entrySet()) {
      try (Connection theirs = sessions.apply(each.getValue())) {
        all &= theirs != null;
        if (theirs != null) {
          execute(theirs, "UNSEAL " + each.getKey());
        }
      } catch (SQLException out) {
        all = false;
      }
    }
    return all;
  }

  private void right(Connection who, String verb, String to) {
    int dice = below(100);
    String on = any(tables);
    String what = chance(20) ? any(WHAT) + ", " + any(WHAT) : any(WHAT);
    if (dice < 4) {
      on = "SERVER";
      what = chance(70) ? "CONNECT" : "SELECT";
    } else if (dice < 16 && house.databases()) {
      on = "DATABASE " + any(databases);
      what = any("CONNECT", "CONNECT", "CREATE", "SELECT", "INSERT");
    } else if (dice < 45) {
      on = "SCHEMA " + any(schemas);
      what = any("USAGE", "USAGE", "USAGE", "CREATE", "SELECT", "INSERT", "DELETE");
    } else if (dice < 60) {
      what = any("SELECT", "INSERT", "UPDATE") + " (" + any("a", "b", "\"odd C\"") + ")";
    }
    boolean byLabel = house.labels() && who == admin && chance(15);
    if (byLabel) {
      on = "LABEL " + any(LABELS);
      what = any("SELECT", "SELECT", "INSERT", "UPDATE", "DELETE", "USAGE", "CONNECT", "CREATE");
    }
    boolean option = !byLabel && verb.equals("GRANT ") && house.options() && chance(15);
    run(who, verb + what + " ON " + on + to + anyone() + (option ? " WITH GRANT OPTION" : ""));
  }

  private String anyone() {
    int dice = below(100);
    return dice < 6 ? "EVERYBODY" : q(dice < 35 && !house.rolesOnly() ? any(users) : any(roles));
  }
}
