package fiador.servers.statements;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Need;
import fiador.effects.State;
import fiador.effects.Together;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import fiador.servers.statements.RandomStatements.Can;
import fiador.servers.statements.RandomStatements.Thing;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.needs.StatementNeeds;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;

/**
 * Random statements are run as several users on a real server: what it refuses must be what is
 * worked out, and what it allows too, after login and after switching to each role.
 */
public final class StatementConformance {
  /** What is particular about a kind of server. */
  public interface House {
    /** As its administrator. */
    Connection admin() throws SQLException;

    /** As one of the users, whose secret is their name. */
    Connection as(String user) throws SQLException;

    /** A statement that makes a user. */
    String user(String name);

    /** A statement that makes the function s1.twice(n). */
    List<String> function();

    /** Whether the server refused it for want of rights. */
    boolean refused(SQLException said);

    /** The privileges of tables that are given. */
    List<String> privileges();

    /** What is given on schemas, with %s for the schema; empty where there is nothing to give. */
    List<String> onSchemas();

    /** What of {@link Can} it can. */
    Set<String> can();

    /** A user as grants name it. */
    default String grantee(String user) {
      return user;
    }

    /** Whether definitions are taken back with the transaction. */
    default boolean transactional() {
      return false;
    }

    /** A statement after which nothing is left; null where it is dropped piece by piece. */
    default String takesDownAll() {
      return null;
    }

    /** A statement that switches to a role. */
    default String switchTo(String role) {
      return "SET ROLE " + role;
    }
  }

  private static final List<String> USERS = List.of("nw1", "nw2", "nw3");
  private static final List<String> ROLES = List.of("nr1", "nr2", "nr3");
  private static final int STATEMENTS = 120;

  private final Server server;
  private final Login login;
  private final House house;
  private final Random random;
  private final List<Thing> things = new ArrayList<>();
  private final Map<String, Connection> connections = new HashMap<>();
  private final List<String> given = new ArrayList<>();
  private String lastSaid;
  private int allowed;
  private int refused;
  private int senseless;
  private final Set<String> beyond = new TreeSet<>();

  /** On that server, which has no schemas s1 and s2 yet. */
  public StatementConformance(Server server, Login login, House house, long seed) {
    this.server = server;
    this.login = login;
    this.house = house;
    this.random = new Random(seed);
  }

  /** Runs it; gives what does not agree. */
  public Set<String> mismatches() throws Exception {
    Set<String> wrong = new TreeSet<>();
    try (Connection admin = house.admin();
        Statement sql = admin.createStatement()) {
      build(sql);
      try {
        Access access = Forms.of(server.survey(login, "box", List.of(), Instant.now(), note -> {}));
        List<String> statements = statements();
        for (String user : USERS) {
          Together together = new Together(access, Clock.systemUTC());
          int id = access.principals().named(accountName(access, user));
          assertThat(id).as(user).isPositive();
          for (String statement : statements) {
            compare(sql, access, together, user, id, statement, wrong);
          }
        }
        if (!wrong.isEmpty()) {
          wrong.addAll(given);
        }
      } finally {
        takeDown(sql);
      }
    }
    String counts = allowed + " allowed, " + refused + " refused, " + senseless + " senseless";
    assertThat(beyond).as("not understood; " + counts).isEmpty();
    assertThat(senseless).as(counts).isLessThan((allowed + refused) / 10 + 5);
    assertThat(allowed).as(counts).isGreaterThan(5);
    assertThat(refused).as(counts).isGreaterThan(20);
    return wrong;
  }

  private String accountName(Access access, String user) {
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.bareName(id).equalsIgnoreCase(user)) {
        return access.principals().name(id);
      }
    }
    throw new AssertionError("no " + user);
  }

  private void build(Statement sql) throws SQLException {
    for (String schema : List.of("s1", "s2")) {
      sql.execute("CREATE SCHEMA " + schema);
    }
    things.add(table(sql, "s1.t1", "a", "b", "c"));
    things.add(table(sql, "s1.t2", "a", "d", "e"));
    things.add(table(sql, "s2.t3", "b", "f"));
    sql.execute("CREATE VIEW s2.v1 AS SELECT a, b + 1 AS g FROM s1.t1");
    things.add(new Thing("s2.v1", List.of("a", "g"), false));
    for (String statement : house.function()) {
      sql.execute(statement);
    }
    for (String user : USERS) {
      sql.execute(house.user(user));
    }
    for (String role : ROLES) {
      sql.execute("CREATE ROLE " + role);
    }
    for (String user : USERS) {
      for (String role : ROLES) {
        if (random.nextInt(3) == 0) {
          sql.execute("GRANT " + role + " TO " + house.grantee(user));
          given.add(role + " TO " + user);
        }
      }
    }
    grants(sql);
  }

  private Thing table(Statement sql, String name, String... columns) throws SQLException {
    sql.execute(
        "CREATE TABLE "
            + name
            + " ("
            + String.join(" INT, ", columns)
            + " INT"
            + (columns[0].equals("a") ? ", UNIQUE (a)" : "")
            + ")");
    return new Thing(name, List.of(columns), true);
  }

  private void grants(Statement sql) throws SQLException {
    List<String> all = new ArrayList<>();
    USERS.forEach(user -> all.add(house.grantee(user)));
    all.addAll(ROLES);
    for (String grantee : all) {
      boolean generous = random.nextInt(2) == 0;
      for (Thing thing : things) {
        for (String privilege : house.privileges()) {
          if (generous ? random.nextInt(4) > 0 : random.nextInt(4) == 0) {
            boolean byColumn = Set.of("SELECT", "INSERT", "UPDATE").contains(privilege);
            String columns = byColumn && random.nextInt(3) == 0 ? " (" + some(thing) + ")" : "";
            give(sql, privilege + columns, thing.name(), grantee);
          }
        }
      }
      for (String schema : List.of("s1", "s2")) {
        for (String privilege : house.onSchemas()) {
          int oneIn = privilege.startsWith("USAGE") ? 2 : 6;
          if (generous && oneIn == 2 || random.nextInt(oneIn) == 0) {
            sql.execute("GRANT " + privilege.formatted(schema) + " TO " + grantee);
            given.add(privilege.formatted(schema) + " TO " + grantee);
          }
        }
      }
      if (random.nextInt(2) == 0) {
        sql.execute("GRANT EXECUTE ON FUNCTION s1.twice TO " + grantee);
      }
    }
  }

  private void give(Statement sql, String privilege, String on, String to) {
    try {
      sql.execute("GRANT " + privilege + " ON " + on + " TO " + to);
      given.add(privilege + " ON " + on + " TO " + to);
    } catch (SQLException notThere) {
      // such as INSERT on a view that takes none
      senseless++;
    }
  }

  private String some(Thing thing) {
    List<String> some = new ArrayList<>(thing.columns());
    while (some.size() > 1 && random.nextInt(3) > 0) {
      some.remove(random.nextInt(some.size()));
    }
    return String.join(", ", some);
  }

  private List<String> statements() {
    Set<Can> can = new TreeSet<>();
    house.can().forEach(name -> can.add(Can.valueOf(name)));
    RandomStatements statements = new RandomStatements(things, "s1.twice", can, random);
    List<String> all = new ArrayList<>();
    for (int i = 0; i < STATEMENTS; i++) {
      all.add(statements.next());
    }
    for (String schema : List.of("s1", "s2")) {
      all.add("CREATE TABLE " + schema + ".fresh (z INT)");
      all.add("CREATE TABLE " + schema + ".fresh AS (SELECT a FROM s1.t1) WITH DATA");
      all.add("CREATE VIEW " + schema + ".fresh AS SELECT a, d FROM s1.t2 WHERE e > 1");
      all.add("CREATE VIEW " + schema + ".fresh AS SELECT count(*) AS n FROM s2.v1");
      all.add("DROP TABLE " + (schema.equals("s1") ? "s1.t2" : "s2.t3"));
    }
    all.add("DROP VIEW s2.v1");
    if (!house.can().contains("MERGE")) {
      all.replaceAll(each -> each.replace(" WITH DATA", ""));
    }
    if (!house.transactional()) {
      all.removeIf(each -> each.startsWith("DROP"));
    }
    return all;
  }

  private void compare(
      Statement admin,
      Access access,
      Together together,
      String user,
      int id,
      String statement,
      Set<String> wrong)
      throws SQLException {
    List<Need> needs;
    try {
      needs = StatementNeeds.of(access, statement);
    } catch (NotUnderstood unknown) {
      beyond.add(unknown.getMessage() + ": " + statement);
      return;
    }
    Together.Result answer = together.of(id, needs);
    Boolean atLogin = runs(admin, user, null, statement);
    if (atLogin == null) {
      return;
    }
    boolean live = answer.state() == State.LIVE;
    if (atLogin != live) {
      wrong.add(
          user + (live ? " refused: " : " allowed: ") + statement + " " + needs + " " + lastSaid);
    }
    for (String role : live || atLogin ? List.<String>of() : ROLES) {
      Boolean after = runs(admin, user, role, statement);
      if (Boolean.TRUE.equals(after) && answer.state() == null) {
        wrong.add(user + " allowed as " + role + ": " + statement + " " + needs);
      }
    }
    if (answer.state() == State.ON_REQUEST) {
      String role = access.principals().name(answer.role());
      if (Boolean.FALSE.equals(runs(admin, user, role, statement))) {
        wrong.add(user + " refused as " + role + ": " + statement + " " + needs + " " + lastSaid);
      }
    }
  }

  /** Whether the user may; null where the server has something else against it. */
  private Boolean runs(Statement admin, String user, String role, String statement)
      throws SQLException {
    Connection theirs = connections.get(user);
    if (theirs == null) {
      theirs = house.as(user);
      theirs.setAutoCommit(false);
      connections.put(user, theirs);
    }
    try (Statement sql = theirs.createStatement()) {
      if (role != null && !isTheirs(sql, role)) {
        return false;
      }
      sql.execute(statement);
      allowed++;
      return true;
    } catch (SQLException said) {
      if (house.refused(said)) {
        lastSaid = said.getMessage();
        refused++;
        return false;
      }
      senseless++;
      return null;
    } finally {
      theirs.rollback();
      if (role != null) {
        try (Statement sql = theirs.createStatement()) {
          sql.execute("SET ROLE NONE");
        }
        theirs.rollback();
      }
      if (!house.transactional() && statement.startsWith("CREATE")) {
        admin.execute(
            "DROP "
                + (statement.startsWith("CREATE VIEW") ? "VIEW" : "TABLE")
                + " IF EXISTS "
                + statement.split(" ", 4)[2]);
      }
    }
  }

  private boolean isTheirs(Statement sql, String role) {
    try {
      sql.execute(house.switchTo(role));
      return true;
    } catch (SQLException notTheirs) {
      return false;
    }
  }

  private void takeDown(Statement sql) throws SQLException {
    for (Connection theirs : connections.values()) {
      theirs.close();
    }
    String all = house.takesDownAll();
    if (all != null) {
      sql.execute(all);
      return;
    }
    for (String schema : List.of("s2", "s1")) {
      sql.execute("DROP SCHEMA " + schema + (house.can().contains("MERGE") ? " CASCADE" : ""));
    }
    for (String role : ROLES) {
      sql.execute("DROP ROLE " + role);
    }
    for (String user : USERS) {
      sql.execute("DROP USER " + house.grantee(user));
    }
  }
}
