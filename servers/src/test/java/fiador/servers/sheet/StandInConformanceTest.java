package fiador.servers.sheet;

import static fiador.servers.sheet.RandomDeeds.execute;
import static fiador.servers.sheet.RandomDeeds.q;
import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Switch;
import fiador.effects.Switching;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.CharterTrip;
import fiador.servers.RoundTrip;
import fiador.servers.Shrinking;
import fiador.servers.jdbc.Login;
import fiador.servers.live.Trial;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntPredicate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Random estates in random houses, on a stand-in that enforces by itself: what we say equals what
 * users can do there.
 */
class StandInConformanceTest {
  /** Half as many as elsewhere: every question goes over the line. */
  private static final int SEEDS = (Integer.getInteger("fiador.seeds", 6) + 1) / 2;

  private static final int FIRST = Integer.getInteger("fiador.seed", 1);
  private static final String REFUSED = "42501";
  private static final int TRIES = Integer.getInteger("fiador.tries", 60);
  private static final int EVERY = 5;

  @TempDir private Path folder;
  private int questions;
  private int started;
  private int sealed;
  private String why = "";

  @Test
  void everyHoldingEqualsWhatTheUserCanDo() throws Exception {
    for (String shipped : new String[] {"cascade", "roles-only", "dataset"}) {
      for (int seed = FIRST; seed < FIRST + 1 + SEEDS / EVERY; seed++) {
        tried(seed, new RandomHouse(shipped), 40);
      }
    }
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      tried(seed, new RandomHouse(seed), 110);
    }
    assertThat(questions).isGreaterThan(SEEDS * 100);
    assertThat(sealed).isPositive();
  }

  private void tried(int seed, RandomHouse house, int least) {
    try {
      compare(seed, house, least);
    } catch (Exception broken) {
      throw new AssertionError("seed " + seed + ", estate " + started, broken);
    }
  }

  private void compare(int seed, RandomHouse house, int least) throws Exception {
    SheetServer server = Sheets.of(house.sheet());
    try (StandIn standIn = standIn("s" + started++, house.sheet())) {
      Login login = login(standIn);
      try (Connection admin = server.connect(login, null)) {
        RandomWarehouse estate = estate(server, login, admin, seed, house, all -> true);
        estate.build();
        assertThat(estate.done).as("seed %d: statements carried out", seed).isGreaterThan(least);
        Set<String> mismatches = mismatches(server, login, estate);
        if (!mismatches.isEmpty()) {
          Files.write(Path.of("target/standin-" + seed + ".whole.sql"), estate.script);
        }
        if (!mismatches.isEmpty() && TRIES > 0) {
          mismatches.add("the estate, made small: " + shrunk(server, seed, house, estate.asked));
        }
        assertThat(mismatches).as("seed %d: %d", seed, mismatches.size()).isEmpty();
        sealed += estate.sealed.size();
        if (!estate.unseal()) {
          // who settles is kept out of what is sealed
          return;
        }
      }
      if (seed % EVERY == 1) {
        CharterTrip.of(server, login, seed, house.sheet());
      } else if (seed % EVERY == 2) {
        CharterTrip.adopted(server, login, seed, house.sheet());
      }
      RoundTrip.of(server, login, seed, 25);
    }
  }

  private static RandomWarehouse estate(
      SheetServer server,
      Login login,
      Connection admin,
      int seed,
      RandomHouse house,
      IntPredicate kept) {
    return new RandomWarehouse(
        admin, seed, house, user -> session(server, login.as(user, "x")), kept);
  }

  private static Connection session(SheetServer server, Login login) {
    try {
      return server.connect(login, null);
    } catch (fiador.servers.jdbc.ServerException out) {
      // who is not let in can do nothing
      return null;
    }
  }

  private StandIn standIn(String name, String sheet) throws Exception {
    return StandIn.start(
        Settings.local(folder.resolve(name), sheet, "keeper", "x".toCharArray(), 0));
  }

  private static Login login(StandIn standIn) {
    return new Login("jdbc:standin://127.0.0.1:" + standIn.port() + "/", "keeper", "x");
  }

  private Set<String> mismatches(SheetServer server, Login login, RandomWarehouse estate)
      throws Exception {
    Access access = Forms.of(server.survey(login, "real", List.of(), Instant.now(), note -> {}));
    Set<String> mismatches = new TreeSet<>();
    for (String user : estate.users) {
      if (access.principals().named(user) < 0 || access.principals().named("SOMEBODY") < 0) {
        // some are missing in an estate that is made small
        continue;
      }
      Connection session = session(server, login.as(user, "x"));
      Held held = new Held(access, user);
      compare(access, user, session, held::live, mismatches);
      if (session != null) {
        asked(new Trial(server, login, access.tree()), access, user, held, mismatches);
        Set<String> worked = new HashSet<>();
        for (String role : estate.roles) {
          switched(access, session, q(role), worked);
        }
        switched(access, session, "NONE", worked);
        ever(access, user, held, worked, mismatches);
        session.close();
      }
    }
    return mismatches;
  }

  /** What the server says when it is asked as the user, and nothing is carried out. */
  private void asked(Trial trial, Access access, String user, Held held, Set<String> mismatches) {
    Tree tree = access.tree();
    for (int node = 0; node < tree.size(); node++) {
      boolean table = tree.kind(node) == NodeKind.TABLE;
      // a third of all: each is asked in a session of its own
      if (!table && tree.kind(node) != NodeKind.VIEW || node % 3 != 0) {
        continue;
      }
      String select = "SELECT " + node + " 0";
      Trial.Outcome reads = trial.attempt(user, Privilege.SELECT, node, 0, null);
      if (reads.why() != null && reads.why().contains("is sealed, and keeper is not")) {
        // whoever is let in is out of reach
        assertThat(reads.answer()).isEqualTo(Trial.Answer.NOT_TRIED);
        return;
      }
      expect(held.live(select), allowed(reads), user, "asked, " + tree.path(node), mismatches);
      int id = access.principals().named(user);
      Switch first = Switching.first(access, Clock.systemUTC(), id, Privilege.SELECT, node, 0);
      if (first != null) {
        Trial.Outcome then = trial.attempt(user, Privilege.SELECT, node, 0, first);
        expect(
            true, allowed(then), user, "asked after " + first + ", " + tree.path(node), mismatches);
      }
      if (table) {
        Trial.Outcome deletes = trial.attempt(user, Privilege.DELETE, node, -1, null);
        boolean may = held.live("DELETE " + node);
        expect(may, allowed(deletes), user, "asked to delete, " + tree.path(node), mismatches);
      }
    }
  }

  private boolean allowed(Trial.Outcome outcome) {
    questions++;
    assertThat(outcome.answer()).as(outcome.why()).isNotEqualTo(Trial.Answer.NOT_TRIED);
    return outcome.answer() == Trial.Answer.ALLOWED;
  }

  private interface Says {
    boolean holds(String what);
  }

  private static String path(Tree tree, int node) {
    String name = q(tree.name(node));
    int parent = tree.parent(node);
    return tree.kind(parent) == NodeKind.SERVER ? name : path(tree, parent) + "." + name;
  }

  /** What a user can do in one state. */
  private void compare(
      Access access, String user, Connection session, Says says, Set<String> mismatches)
      throws SQLException {
    Tree tree = access.tree();
    // who administers gives whatever they like, also what they are denied
    boolean administers = works(session, "SELECT * FROM catalog.principals");
    for (int node = 0; node < tree.size(); node++) {
      NodeKind kind = tree.kind(node);
      String name = kind == NodeKind.SERVER ? "" : path(tree, node);
      if (kind == NodeKind.SCHEMA) {
        String made = name + ".\"made\"";
        boolean works = works(session, "CREATE TABLE " + made + " (a integer)");
        expect(says.holds("CREATE " + node), works, user, "CREATE IN " + name, mismatches);
        if (works) {
          execute(session, "DROP TABLE " + made);
        }
      }
      if (kind != NodeKind.TABLE && kind != NodeKind.VIEW) {
        continue;
      }
      boolean reads = true;
      for (int column = 0; column < tree.columns(node); column++) {
        String c = q(tree.column(node, column));
        boolean may = says.holds("SELECT " + node + " " + column);
        reads &= may;
        String select = "SELECT " + c + " FROM " + name;
        expect(may, works(session, select), user, select, mismatches);
        if (kind == NodeKind.TABLE) {
          String insert = "INSERT INTO " + name + " (" + c + ") VALUES (1)";
          boolean adds = says.holds("INSERT " + node + " " + column);
          expect(adds, works(session, insert), user, insert, mismatches);
          String update = "UPDATE " + name + " SET " + c + " = 1";
          boolean changes = says.holds("UPDATE " + node + " " + column);
          expect(changes, works(session, update), user, update, mismatches);
        }
      }
      String all = "SELECT * FROM " + name;
      expect(reads, works(session, all), user, all, mismatches);
      if (kind == NodeKind.TABLE) {
        String delete = "DELETE FROM " + name + " WHERE 1 = 1";
        expect(says.holds("DELETE " + node), works(session, delete), user, delete, mismatches);
      }
      // what keeps a view from being read does not keep anybody from giving on the right to it
      if (!administers && kind == NodeKind.TABLE) {
        String grant = "GRANT SELECT ON " + name + " TO \"SOMEBODY\"";
        boolean works = works(session, grant);
        expect(says.holds("GRANT SELECT " + node), works, user, grant, mismatches);
        if (works) {
          execute(session, "REVOKE SELECT ON " + name + " FROM \"SOMEBODY\"");
        }
      }
    }
  }

  /** What works after switching to a role, if one can. */
  private void switched(Access access, Connection session, String role, Set<String> worked)
      throws SQLException {
    try {
      execute(session, "SET ROLE " + role);
    } catch (SQLException not) {
      return;
    }
    Tree tree = access.tree();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node) == NodeKind.TABLE || tree.kind(node) == NodeKind.VIEW) {
        for (int column = 0; column < tree.columns(node); column++) {
          String c = q(tree.column(node, column));
          if (works(session, "SELECT " + c + " FROM " + path(tree, node))) {
            worked.add("SELECT " + node + " " + column);
          }
        }
      }
    }
    execute(session, "SET ROLE NONE");
  }

  /** Whatever is held on request worked after some switch, and the other way round. */
  private void ever(
      Access access, String user, Held held, Set<String> worked, Set<String> mismatches) {
    Tree tree = access.tree();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node) == NodeKind.TABLE || tree.kind(node) == NodeKind.VIEW) {
        for (int column = 0; column < tree.columns(node); column++) {
          String what = "SELECT " + node + " " + column;
          boolean says = held.ever(what) && !held.live(what);
          boolean did = worked.contains(what) && !held.live(what);
          String about = "after switching, " + tree.name(node) + " column " + column;
          expect(says, did, user, about, mismatches);
        }
      }
    }
  }

  private boolean works(Connection session, String sql) throws SQLException {
    questions++;
    if (session == null) {
      return false;
    }
    try {
      execute(session, sql);
      return true;
    } catch (SQLException refused) {
      if (!REFUSED.equals(refused.getSQLState())) {
        throw new SQLException(sql + ": " + refused.getMessage(), refused);
      }
      why = refused.getMessage();
      return false;
    }
  }

  private void expect(
      boolean says, boolean worked, String user, String what, Set<String> mismatches) {
    if (worked != says) {
      mismatches.add(
          user
              + ": "
              + what
              + ": worked "
              + worked
              + ", we say "
              + says
              + (worked ? "" : ": " + why));
    }
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private Path shrunk(SheetServer server, int seed, RandomHouse house, int statements)
      throws Exception {
    Path file = Path.of("target/standin-" + seed + ".sql");
    int[] number = {0};
    new Shrinking(TRIES).of(statements, kept -> fails(server, seed, house, kept, file, number));
    return file;
  }

  private boolean fails(
      SheetServer server, int seed, RandomHouse house, IntPredicate kept, Path file, int[] number)
      throws Exception {
    try (StandIn small = standIn("small" + seed + "-" + number[0]++, house.sheet())) {
      Login login = login(small);
      try (Connection admin = server.connect(login, null)) {
        RandomWarehouse fewer = estate(server, login, admin, seed, house, kept);
        fewer.build();
        Set<String> wrong = mismatches(server, login, fewer);
        if (!wrong.isEmpty()) {
          Files.writeString(
              file, house.sheet() + "\n" + String.join("\n", fewer.script) + "\n" + wrong);
        }
        return !wrong.isEmpty();
      }
    }
  }
}
