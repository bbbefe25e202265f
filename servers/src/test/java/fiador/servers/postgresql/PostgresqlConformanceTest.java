package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.DottedName;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.CharterTrip;
import fiador.servers.RoundTrip;
import fiador.servers.Shrinking;
import fiador.servers.jdbc.Login;
import fiador.servers.postgresql.ServerAnswers.Right;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Random estates on real servers: every holding, in every state, on every object and column, equals
 * what the server itself says and does. More seeds: {@code -Dfiador.seeds=200 -Dfiador.seed=1000}.
 */
class PostgresqlConformanceTest {
  static final int SEEDS = Integer.getInteger("fiador.seeds", 12);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  /** On every such one of the estates something is also taken away as reviews say. */
  private static final int EVERY = 5;

  /** So often a smaller estate is tried where there is a mismatch. */
  private static final int TRIES = 60;

  record Answer(State state, boolean grantable) {}

  @ParameterizedTest
  @ValueSource(ints = {18})
  void everyHoldingEqualsTheServersOwnAnswer(int major) throws Exception {
    everyHoldingEqualsTheServersOwnAnswer(major, FIRST, SEEDS);
  }

  static void everyHoldingEqualsTheServersOwnAnswer(int major, int first, int seeds)
      throws Exception {
    PostgresqlServer server = new PostgresqlServer();
    Login login = RealPostgresql.login(major);
    for (int seed = first; seed < first + seeds; seed++) {
      try (Connection home = RealPostgresql.connect(login, null);
          RandomEstate estate =
              new RandomEstate(home, name -> RealPostgresql.connect(login, name), major, seed)) {
        estate.build();
        assertThat(estate.done()).as("statements carried out").isGreaterThan(350);
        Set<String> mismatches = mismatches(server, login, home, estate, major);
        if (!mismatches.isEmpty()) {
          estate.takeDown();
          mismatches.add("a small estate with some of it: " + shrunk(major, seed, estate.asked()));
        }
        assertThat(mismatches)
            .as("PostgreSQL %d, seed %d: %d mismatches", major, seed, mismatches.size())
            .isEmpty();
        if (seed % EVERY == 0) {
          RoundTrip.tightened(server, login, seed, 3);
        }
        if (seed % (2 * EVERY) == 0) {
          CharterTrip.of(server, login, seed);
        } else {
          CharterTrip.adopted(server, login, seed);
        }
        RoundTrip.of(server, login, seed, 25);
      }
    }
  }

  private static Set<String> mismatches(
      PostgresqlServer server, Login login, Connection home, RandomEstate estate, int major)
      throws Exception {
    Access access =
        Forms.of(server.survey(login, "real", List.of(), Instant.now(), note -> fail(note)));
    ServerAnswers answers = new ServerAnswers(major);
    answers.readServer(home);
    Set<String> mismatches = new TreeSet<>();
    Map<String, Map<Right, Answer>> ours = ours(access);
    Map<Right, Boolean> ran = new HashMap<>();
    for (String database : estate.databases) {
      try (Connection connection = RealPostgresql.connect(login, database)) {
        answers.readDatabase(connection, database);
        ran.putAll(runViews(connection, answers, database));
        compareStatements(connection, answers, ours, database, mismatches);
        SystemComparison.compare(connection, access, answers, database, mismatches);
      }
    }
    compareStates(answers, ours, ran, mismatches);
    compareTranspose(access, mismatches);
    return mismatches;
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private static Path shrunk(int major, int seed, int statements) throws Exception {
    PostgresqlServer server = new PostgresqlServer();
    Login login = RealPostgresql.login(major);
    Path file = Path.of("target/postgresql-" + major + "-" + seed + ".sql");
    new Shrinking(TRIES)
        .of(
            statements,
            kept -> {
              try (Connection home = RealPostgresql.connect(login, null);
                  RandomEstate fewer =
                      new RandomEstate(
                          home, name -> RealPostgresql.connect(login, name), major, seed, kept)) {
                try {
                  fewer.build();
                } catch (SQLException senseless) {
                  // such as a database whose owner was left out
                  return false;
                }
                boolean wrong = !mismatches(server, login, home, fewer, major).isEmpty();
                if (wrong) {
                  Files.write(file, fewer.script());
                }
                return wrong;
              }
            });
    return file;
  }

  private static void fail(String note) {
    throw new AssertionError(note);
  }

  private static Map<String, Map<Right, Answer>> ours(Access access) {
    Map<String, Map<Right, Answer>> all = new HashMap<>();
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    Principals principals = access.principals();
    Tree tree = access.tree();
    for (int user = 0; user < principals.size(); user++) {
      if (principals.isUser(user)) {
        String name = principals.name(user);
        Map<Right, Answer> rows = all.computeIfAbsent(name, fresh -> new HashMap<>());
        List<Holding> list = holdings.of(user);
        assertThat(holdings.count(user)).isEqualTo(list.size());
        for (Holding row : list) {
          expand(tree, name, row, rows);
        }
      }
    }
    return all;
  }

  static void expand(Tree tree, String user, Holding row, Map<Right, Answer> rows) {
    String privilege = row.privilege().name();
    String path = tree.path(row.node());
    Answer answer = new Answer(row.state(), row.grantable());
    boolean byColumn = Set.of("SELECT", "INSERT", "UPDATE", "REFERENCES").contains(privilege);
    if (row.columns() == null) {
      put(rows, new Right(user, privilege, path, ""), answer);
    }
    for (int column = 0; byColumn && column < tree.columns(row.node()); column++) {
      if (row.columns() == null || row.columns().get(column)) {
        put(rows, new Right(user, privilege, path, tree.column(row.node(), column)), answer);
      }
    }
  }

  /** The best state counts; within it a grantable row beats one that is not. */
  private static void put(Map<Right, Answer> rows, Right right, Answer answer) {
    rows.merge(
        right,
        answer,
        (a, b) ->
            a.state() != b.state()
                ? (a.state().compareTo(b.state()) < 0 ? a : b)
                : new Answer(a.state(), a.grantable() || b.grantable()));
  }

  private static Map<Right, Boolean> runViews(
      Connection connection, ServerAnswers answers, String database) throws Exception {
    List<Right> asked = new ArrayList<>();
    List<String> statements = new ArrayList<>();
    for (String view : answers.views) {
      if (answers.databaseOf.get(view).equals(DottedName.quoted(database))) {
        asked.add(new Right("", "SELECT", view, ""));
        statements.add("TABLE " + inDatabase(view));
        for (String column : answers.columnsOf.get(view)) {
          asked.add(new Right("", "SELECT", view, column));
          statements.add("SELECT " + RandomEstate.q(column) + " FROM " + inDatabase(view));
        }
      }
    }
    Set<String> principals = new HashSet<>(answers.users);
    answers.canSwitchTo.get(DottedName.quoted(database)).values().forEach(principals::addAll);
    Map<Right, Boolean> ran = new HashMap<>();
    for (String principal : principals) {
      List<Boolean> found = ServerAnswers.run(connection, principal, statements);
      for (int i = 0; i < asked.size(); i++) {
        Right right = asked.get(i);
        ran.put(new Right(principal, "SELECT", right.object(), right.column()), found.get(i));
      }
    }
    return ran;
  }

  /** The name without the database, each part in quotes. */
  private static String inDatabase(String path) {
    List<String> parts = new ArrayList<>();
    DottedName.split(path).forEach(part -> parts.add(RandomEstate.q(part.text())));
    return String.join(".", parts.subList(1, parts.size()));
  }

  private static void compareStates(
      ServerAnswers server,
      Map<String, Map<Right, Answer>> ours,
      Map<Right, Boolean> ran,
      Set<String> mismatches) {
    for (String user : server.users) {
      for (String object : server.privilegesOf.keySet()) {
        for (String privilege : server.privilegesOf.get(object)) {
          compare(server, ours, ran, new Right(user, privilege, object, ""), mismatches);
          if (Set.of("SELECT", "INSERT", "UPDATE", "REFERENCES").contains(privilege)) {
            for (String column : server.columnsOf.getOrDefault(object, List.of())) {
              compare(server, ours, ran, new Right(user, privilege, object, column), mismatches);
            }
          }
        }
      }
    }
  }

  private static void compare(
      ServerAnswers server,
      Map<String, Map<Right, Answer>> ours,
      Map<Right, Boolean> ran,
      Right right,
      Set<String> mismatches) {
    State expected = expected(server, ran, right);
    Answer actual = ours.get(right.principal()).get(right);
    if (expected != (actual == null ? null : actual.state())) {
      mismatches.add(right + ": the server says " + expected + ", we say " + actual);
    } else if (expected == State.LIVE && actual.grantable() != server.grantable.contains(right)) {
      mismatches.add(right + ": the right to grant differs from " + actual);
    }
  }

  private static State expected(ServerAnswers server, Map<Right, Boolean> ran, Right right) {
    String user = right.principal();
    boolean superuser = server.superusers.contains(user);
    String database = server.databaseOf.get(right.object());
    boolean connects =
        superuser
            || right.object().equals(database) && right.privilege().equals("CONNECT")
            || server.held.contains(new Right(user, "CONNECT", database, ""));
    if (server.held.contains(right) && connects && open(server, ran, right, user)) {
      return State.LIVE;
    }
    boolean anywhere = server.held.contains(right);
    for (String role : server.canSwitchTo(database, user)) {
      Right asRole = new Right(role, right.privilege(), right.object(), right.column());
      if (server.held.contains(asRole)) {
        anywhere = true;
        if (connects && open(server, ran, asRole, role)) {
          return State.ON_REQUEST;
        }
      }
    }
    return anywhere ? State.BLOCKED : null;
  }

  private static boolean open(
      ServerAnswers server, Map<Right, Boolean> ran, Right right, String acting) {
    String schema = server.schemaOf.get(right.object());
    boolean usage =
        schema == null
            || server.superusers.contains(acting)
            || server.held.contains(new Right(acting, "USAGE", schema, ""));
    if (!usage || !server.views.contains(right.object()) || !right.privilege().equals("SELECT")) {
      return usage;
    }
    return ran.get(new Right(acting, "SELECT", right.object(), right.column()));
  }

  /** Live on tables equals really running the statement as the user. */
  private static void compareStatements(
      Connection connection,
      ServerAnswers server,
      Map<String, Map<Right, Answer>> ours,
      String database,
      Set<String> mismatches)
      throws Exception {
    List<String> tables =
        server.tables.stream()
            .filter(table -> server.databaseOf.get(table).equals(DottedName.quoted(database)))
            .toList();
    List<String> statements = new ArrayList<>();
    for (String table : tables) {
      String name = inDatabase(table);
      statements.add("TABLE " + name);
      statements.add("INSERT INTO " + name + " DEFAULT VALUES");
      statements.add("UPDATE " + name + " SET c0 = c0 WHERE false");
      statements.add("DELETE FROM " + name + " WHERE false");
      statements.add("TRUNCATE " + name);
    }
    for (String user : server.users) {
      Right connect = new Right(user, "CONNECT", DottedName.quoted(database), "");
      if (!server.held.contains(connect)) {
        continue; // a session of theirs could not have begun; compared by the gate instead
      }
      List<Boolean> found = ServerAnswers.run(connection, user, statements);
      Map<Right, Answer> rows = ours.get(user);
      for (int i = 0; i < tables.size(); i++) {
        String table = tables.get(i);
        List<String> columns =
            server.columnsOf.getOrDefault(table, List.of()).stream()
                .filter(column -> !column.equals("ctid"))
                .toList();
        boolean readsAll = columns.stream().allMatch(c -> live(rows, user, "SELECT", table, c));
        boolean[] expected = {
          readsAll,
          live(rows, user, "INSERT", table, "")
              || columns.stream().anyMatch(c -> live(rows, user, "INSERT", table, c)),
          live(rows, user, "UPDATE", table, "c0") && live(rows, user, "SELECT", table, "c0"),
          live(rows, user, "DELETE", table, ""),
          live(rows, user, "TRUNCATE", table, "")
        };
        for (int s = 0; s < expected.length; s++) {
          if (found.get(i * expected.length + s) != expected[s]) {
            mismatches.add(
                user
                    + " ran "
                    + statements.get(i * expected.length + s)
                    + ": "
                    + !expected[s]
                    + ", we say "
                    + expected[s]);
          }
        }
      }
    }
  }

  private static boolean live(
      Map<Right, Answer> rows, String user, String privilege, String object, String column) {
    Answer answer = rows.get(new Right(user, privilege, object, column));
    return answer != null && answer.state() == State.LIVE;
  }

  /** Holders of each object are the holdings on it, read from the other end. */
  private static void compareTranspose(Access access, Set<String> mismatches) {
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    Holders holders = new Holders(access, Clock.systemUTC());
    Set<String> fromUsers = new TreeSet<>();
    for (int user = 0; user < access.principals().size(); user++) {
      if (access.principals().isUser(user)) {
        holdings.of(user).forEach(row -> fromUsers.add(text(access, row)));
      }
    }
    Set<String> fromObjects = new TreeSet<>();
    for (int node = 0; node < access.tree().size(); node++) {
      if (!access.tree().isSystem(node)) {
        holders.of(node).forEach(row -> fromObjects.add(text(access, row)));
      }
    }
    Set<String> onlyUsers = new TreeSet<>(fromUsers);
    onlyUsers.removeAll(fromObjects);
    onlyUsers.forEach(row -> mismatches.add("only in holdings: " + row));
    fromObjects.removeAll(fromUsers);
    fromObjects.forEach(row -> mismatches.add("only in holders: " + row));
  }

  private static String text(Access access, Holding row) {
    return String.join(
        " ",
        access.principals().name(row.user()),
        row.privilege().text(),
        access.tree().path(row.node()),
        row.state().text(),
        row.grantable() ? "grantable" : "",
        String.valueOf(row.columns()).toLowerCase(Locale.ROOT));
  }
}
