package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.Forms;
import fiador.servers.CharterTrip;
import fiador.servers.RoundTrip;
import fiador.servers.Shrinking;
import fiador.servers.jdbc.Login;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Random estates on a real MariaDB: what the core says against what the server lets accounts do.
 */
class MariadbConformanceTest {
  /** On every such one of the estates something is also taken away as reviews say. */
  private static final int EVERY = 5;

  private static final Set<Integer> REFUSED =
      Set.of(1044, 1045, 1142, 1143, 1227, 1370, 1410, 1698);
  private static final Set<Integer> BROKEN_VIEW = Set.of(1356, 1449);
  private static final Set<Integer> TABLE_REFUSED = Set.of(1142, 1143);
  private static final int DATABASE_REFUSED = 1044;
  private static final int ROUTINE_REFUSED = 1370;
  private static final int TRIES = 120;
  private static final int GRANTS_TRIED = 40;
  private static final long COLUMN_WISE =
      PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE);

  @BeforeAll
  static void onlyWhereThereIsAServer() {
    assumeTrue(System.getProperty("os.name").equals("Linux"));
    assumeTrue(System.getProperty("os.arch").equals("amd64"));
  }

  /** What is left of the last estate would be found by the tests that come after. */
  @AfterAll
  static void nothingIsLeft() throws Exception {
    RandomMariadb.clear(RealMariadb.login());
  }

  static Stream<Long> seeds() {
    long first = Long.getLong("fiador.seed", 1);
    return LongStream.range(first, first + Long.getLong("fiador.seeds", 20)).boxed();
  }

  private static final Clock CLOCK = Clock.systemUTC();

  private Access access;
  private Tree tree;
  private final List<String> mismatches = new ArrayList<>();

  @ParameterizedTest
  @MethodSource("seeds")
  void whatIsSaidIsWhatTheServerDoes(long seed) throws Exception {
    Login login = RealMariadb.login();
    RandomMariadb estate;
    try (Connection admin = connect(login.url(), "root")) {
      estate = new RandomMariadb(admin, seed);
      estate.build();
      int asked = compareAll(login, estate, seed);
      assertThat(asked).as("accounts that could log in").isGreaterThan(5);
      compareHolders(new Holdings(access, CLOCK, false));
      if (!mismatches.isEmpty()) {
        List<String> found = List.copyOf(mismatches);
        Path small = shrunk(login, admin, seed, estate.asked());
        mismatches.clear();
        mismatches.addAll(found);
        mismatches.add("the estate, made small: " + small);
      }
    }
    assertThat(mismatches).as("seed " + seed).isEmpty();
    if (seed % EVERY == 0) {
      RoundTrip.tightened(new MariadbServer(), login, seed, 2);
    }
    if (seed % (2 * EVERY) == 0) {
      CharterTrip.of(new MariadbServer(), login, seed);
    } else {
      CharterTrip.adopted(new MariadbServer(), login, seed);
    }
    RoundTrip.of(new MariadbServer(), login, seed, 25);
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private Path shrunk(Login login, Connection admin, long seed, int statements) throws Exception {
    Path file = Path.of("target/mariadb-" + seed + ".sql");
    Set<String> found = Set.copyOf(mismatches);
    new Shrinking(TRIES)
        .of(
            statements,
            kept -> {
              RandomMariadb fewer = new RandomMariadb(admin, seed, kept);
              mismatches.clear();
              try {
                fewer.build();
                compareAll(login, fewer, seed);
              } catch (SQLException lacking) {
                // what is left out was needed by what comes after it
                return false;
              }
              // what is left has to show what was found, and nothing else instead
              boolean still = mismatches.stream().anyMatch(found::contains);
              if (still) {
                Files.write(file, fewer.script());
              }
              return still;
            });
    return file;
  }

  /** Surveys and compares every account; tells how many of them could log in. */
  private int compareAll(Login login, RandomMariadb estate, long seed) throws Exception {
    access = Forms.of(new MariadbServer().survey(login, "m", List.of(), Instant.now(), note -> {}));
    tree = access.tree();
    Holdings holdings = new Holdings(access, CLOCK, false);
    int asked = 0;
    for (int user = 0; user < access.principals().size(); user++) {
      if (access.principals().isUser(user)) {
        List<Holding> rows = holdings.of(user);
        assertThat(holdings.count(user)).isEqualTo(rows.size());
        asked += compare(login, estate, user, rows, seed) ? 1 : 0;
      }
    }
    return asked;
  }

  private static Connection connect(String url, String user) throws SQLException {
    java.util.Properties settings = new java.util.Properties();
    settings.setProperty("user", user);
    return DriverManager.getConnection(url, settings);
  }

  private void compareHolders(Holdings holdings) {
    Holders holders = new Holders(access, CLOCK);
    for (int node = 0; node < tree.size(); node++) {
      if (tree.isSystem(node)) {
        continue;
      }
      List<String> transposed = new ArrayList<>();
      for (int user = 0; user < access.principals().size(); user++) {
        if (access.principals().isUser(user)) {
          holdings.at(user, node).forEach(row -> transposed.add(row.toString()));
        }
      }
      List<String> found = holders.of(node).stream().map(Holding::toString).toList();
      assertThat(found).as(tree.path(node)).containsExactlyInAnyOrderElementsOf(transposed);
    }
  }

  /** A privilege on a node or one of its columns, -1 for the node itself. */
  record Thing(Privilege privilege, int node, int column) {}

  private boolean compare(
      Login login, RandomMariadb estate, int user, List<Holding> rows, long seed)
      throws SQLException {
    AccountName account = AccountName.of(access.principals().name(user));
    if (account.user().equals("root") || account.user().equals("mariadb.sys")) {
      return false;
    }
    String as = account.isAnonymous() ? "somebody else" : account.user();
    Map<Thing, State> said = new HashMap<>();
    Map<Thing, Boolean> grantable = new HashMap<>();
    for (Holding row : rows) {
      for (int column : columns(row)) {
        Thing thing = new Thing(row.privilege(), row.node(), column);
        said.merge(thing, row.state(), (a, b) -> a.compareTo(b) <= 0 ? a : b);
        grantable.merge(thing, row.grantable() && row.state() == State.LIVE, Boolean::logicalOr);
      }
    }
    Map<Thing, State> seen = new HashMap<>();
    try (Connection session = connect(login.url(), as);
        Statement sql = session.createStatement()) {
      session.setAutoCommit(false);
      try (ResultSet who = sql.executeQuery("select current_user()")) {
        who.next();
        if (!who.getString(1).equals(account.toString())) {
          return false;
        }
      }
      String asker = "'" + account.user() + "'@'" + account.host() + "'";
      look(sql, State.LIVE, seen, asker);
      tryGranting(sql, grantable, said, new Random(seed * 1000 + user), account);
      for (String role : estate.roles) {
        try {
          sql.execute("set role " + role);
        } catch (SQLException notHis) {
          continue;
        }
        look(sql, State.ON_REQUEST, seen, asker);
      }
    } catch (SQLException refused) {
      assertThat(refused.getMessage()).contains("Access denied for user");
      return false;
    }
    Set<Thing> all = new LinkedHashSet<>(seen.keySet());
    all.addAll(said.keySet().stream().filter(thing -> isAsked(thing)).toList());
    Map<String, String> wrong = new TreeMap<>();
    for (Thing thing : all) {
      if (said.get(thing) != seen.get(thing) && !isHiddenByBrokenView(thing, said, seen)) {
        wrong.put(text(thing), account + ": said " + said.get(thing) + ", is " + seen.get(thing));
      }
    }
    wrong.forEach((thing, what) -> mismatches.add(thing + " " + what));
    return true;
  }

  /**
   * Whoever holds some column of a view that cannot be read gets the same error for the columns he
   * does not hold; and of a view whose definer is gone the server says that it is not theirs to
   * read. What is held and what is not cannot be told apart there, and neither works.
   */
  private boolean isHiddenByBrokenView(
      Thing thing, Map<Thing, State> said, Map<Thing, State> seen) {
    boolean gone =
        tree.is(thing.node(), NodeFact.ORPHANED) || tree.is(thing.node(), NodeFact.DEPUTIZED);
    if (gone && said.get(thing) == State.BLOCKED) {
      return seen.get(thing) == null;
    }
    return seen.get(thing) == State.BLOCKED
        && said.get(thing) == null
        && tree.kind(thing.node()) == NodeKind.VIEW
        && said.keySet().stream().anyMatch(held -> held.node() == thing.node());
  }

  private String text(Thing thing) {
    return thing.privilege()
        + " "
        + tree.kind(thing.node())
        + " "
        + tree.path(thing.node())
        + (thing.column() < 0 ? "" : "." + tree.column(thing.node(), thing.column()));
  }

  private int[] columns(Holding row) {
    boolean byColumn = (row.privilege().bit() & COLUMN_WISE) != 0 && tree.columns(row.node()) > 0;
    if (!byColumn) {
      return row.columns() == null ? new int[] {-1} : new int[0];
    }
    return row.columns() == null
        ? java.util.stream.IntStream.range(0, tree.columns(row.node())).toArray()
        : row.columns().stream().toArray();
  }

  private boolean isAsked(Thing thing) {
    return !tree.isSystem(thing.node()) && !new MariadbQuestions(tree).of(thing).isEmpty();
  }

  private void look(Statement sql, State ifDone, Map<Thing, State> seen, String asker)
      throws SQLException {
    for (int node = 1; node < tree.size(); node++) {
      if (tree.isSystem(node)) {
        continue;
      }
      for (Privilege privilege : PrivilegeSet.list(access.rules().privilegesOn(tree.kind(node)))) {
        boolean byColumn = (privilege.bit() & COLUMN_WISE) != 0 && tree.columns(node) > 0;
        for (int column = byColumn ? 0 : -1;
            column < (byColumn ? tree.columns(node) : 0);
            column++) {
          Thing thing = new Thing(privilege, node, column);
          String statement = new MariadbQuestions(tree).of(thing);
          if (!statement.isEmpty()) {
            State state = outcome(sql, statement, ifDone, asker);
            if (state != null) {
              seen.merge(thing, state, (a, b) -> a.compareTo(b) <= 0 ? a : b);
            }
          }
        }
      }
    }
  }

  private static State outcome(Statement sql, String statement, State ifDone, String asker)
      throws SQLException {
    try {
      sql.execute(statement);
      if (statement.startsWith("create trigger")) {
        sql.execute(
            "drop trigger "
                + statement.substring("create trigger ".length(), statement.indexOf(" before")));
      }
      sql.getConnection().rollback();
      return ifDone;
    } catch (SQLException refused) {
      if (BROKEN_VIEW.contains(refused.getErrorCode())) {
        return State.BLOCKED;
      }
      // a routine's definer must be allowed to run it and to enter its database too, and is named
      // when they are not
      boolean routine =
          refused.getErrorCode() == ROUTINE_REFUSED || refused.getErrorCode() == DATABASE_REFUSED;
      if (routine && !refused.getMessage().contains(asker)) {
        return State.BLOCKED;
      }
      // so is a view's definer where it is a matter of some column
      boolean other = !refused.getMessage().contains(asker.substring(0, asker.indexOf("@")));
      if (TABLE_REFUSED.contains(refused.getErrorCode()) && other) {
        return State.BLOCKED;
      }
      return REFUSED.contains(refused.getErrorCode()) ? null : ifDone;
    }
  }

  private String path(int node) {
    String in = RandomMariadb.name(tree.name(tree.parent(node))) + ".";
    String own = tree.name(node);
    return in
        + RandomMariadb.name(
            tree.kind(node) == NodeKind.ROUTINE ? own.substring(0, own.indexOf('(')) : own);
  }

  /** Tries to pass on a sample of what is and is not held. */
  private void tryGranting(
      Statement sql,
      Map<Thing, Boolean> grantable,
      Map<Thing, State> said,
      Random random,
      AccountName account) {
    List<Thing> tried = new ArrayList<>();
    List<Thing> held =
        said.keySet().stream().sorted(java.util.Comparator.comparing(this::text)).toList();
    for (int i = 0; i < GRANTS_TRIED && !held.isEmpty(); i++) {
      tried.add(held.get(random.nextInt(held.size())));
    }
    for (Thing thing : tried) {
      NodeKind kind = tree.kind(thing.node());
      boolean live = said.get(thing) == State.LIVE;
      boolean skipped =
          kind == NodeKind.SERVER || tree.is(thing.node(), NodeFact.ORPHANED) || !live;
      if (skipped) {
        continue;
      }
      String columns =
          thing.column() < 0
              ? ""
              : " (" + RandomMariadb.name(tree.column(thing.node(), thing.column())) + ")";
      String on =
          switch (kind) {
            case SCHEMA -> RandomMariadb.name(tree.name(thing.node()).replace("_", "\\_")) + ".*";
            case ROUTINE ->
                (tree.name(thing.node()).startsWith("p") ? "procedure " : "function ")
                    + path(thing.node());
            default -> path(thing.node());
          };
      String statement =
          "grant " + thing.privilege().text() + columns + " on " + on + " to " + RandomMariadb.SINK;
      boolean done;
      try {
        sql.execute(statement);
        done = true;
      } catch (SQLException refused) {
        done = !REFUSED.contains(refused.getErrorCode());
      }
      if (done != grantable.get(thing)) {
        mismatches.add(
            "passing on "
                + text(thing)
                + " "
                + account
                + ": said "
                + grantable.get(thing)
                + ", is "
                + done);
      }
    }
  }
}
