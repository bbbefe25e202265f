package fiador.servers.sheet;

import static fiador.servers.sheet.RandomDeeds.execute;
import static fiador.servers.sheet.RandomDeeds.q;
import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.CharterTrip;
import fiador.servers.RoundTrip;
import fiador.servers.Shrinking;
import fiador.servers.jdbc.Login;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/**
 * Random estates on a real Derby, known by its sheet alone: what we say equals what users can do,
 * at login and after SET ROLE.
 */
class DerbyConformanceTest {
  private static final int SEEDS = (Integer.getInteger("fiador.seeds", 6) + 1) / 2;
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);
  private static final int TRIES = 60;
  private static final int EVERY = 5;
  private static final Login BOSS = new Login("jdbc:derby:memory:none", "BOSS", "b");

  /** A statement of a user, by what of ours should allow it. */
  private record Trial(String key, String sql) {}

  @BeforeAll
  static void quietly() {
    System.setProperty("derby.stream.error.file", "target/derby.log");
    // every user tries the same statements, and each takes longer to compile than to run
    System.setProperty("derby.language.statementCacheSize", "4000");
  }

  /** A database whose accounts and rights are its own. */
  static Login fresh(String name) throws SQLException {
    String url = "jdbc:derby:memory:" + name;
    try (Connection boss = DriverManager.getConnection(url + ";create=true;user=BOSS;password=b")) {
      execute(boss, "CALL SYSCS_UTIL.SYSCS_CREATE_USER('BOSS', 'b')");
      execute(
          boss,
          "CALL SYSCS_UTIL.SYSCS_SET_DATABASE_PROPERTY('derby.database.sqlAuthorization', 'true')");
    }
    end(url + ";shutdown=true;user=BOSS;password=b");
    return BOSS.at(url);
  }

  private static void end(String url) {
    try {
      DriverManager.getConnection(url).close();
    } catch (SQLException ended) {
      // that is how it says so
    }
  }

  private static void drop(Login login) {
    end(login.url() + ";drop=true;user=BOSS;password=b");
  }

  @Test
  void everyHoldingEqualsWhatTheUserCanDo() throws Exception {
    SheetServer server = Sheets.server("derby");
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      Login login = fresh("estate" + seed);
      try (Connection admin = server.connect(login, null)) {
        RandomDerby estate = new RandomDerby(admin, seed, statement -> true);
        estate.build();
        assertThat(estate.done).as("statements carried out").isGreaterThan(140);
        Set<String> mismatches = mismatches(server, login, estate);
        if (!mismatches.isEmpty()) {
          mismatches.add("the estate, made small: " + shrunk(server, seed, estate.asked));
        }
        assertThat(mismatches).as("Derby, seed %d: %d", seed, mismatches.size()).isEmpty();
        if (seed % EVERY == 0) {
          RoundTrip.tightened(server, login, seed, 3);
        }
        if (seed % EVERY == 1) {
          CharterTrip.of(server, login, seed);
        } else {
          CharterTrip.adopted(server, login, seed);
        }
        RoundTrip.of(server, login, seed, 25);
      }
      drop(login);
    }
  }

  private static Set<String> mismatches(SheetServer server, Login login, RandomDeeds estate)
      throws Exception {
    Access access = Forms.of(server.survey(login, "real", List.of(), Instant.now(), note -> {}));
    Set<String> mismatches = new TreeSet<>();
    for (String user : estate.users) {
      // some users are missing in an estate that is made small
      if (access.principals().named(user) >= 0 && access.principals().named("SOMEBODY") >= 0) {
        try (Connection session = server.connect(login.as(q(user), "x"), null)) {
          session.setAutoCommit(false);
          compare(access, user, session, estate.roles, mismatches);
        }
      }
    }
    return mismatches;
  }

  private static void compare(
      Access access, String user, Connection session, List<String> roles, Set<String> mismatches)
      throws SQLException {
    Held held = new Held(access, user);
    List<Trial> trials = trials(access.tree());
    Map<Trial, Boolean> ever = new LinkedHashMap<>();
    for (Trial trial : trials) {
      boolean worked = worked(session, trial.sql());
      ever.put(trial, worked);
      if (worked != held.live(trial.key())) {
        mismatches.add(user + ": " + trial.sql() + ": worked " + worked);
      }
    }
    for (String role : roles) {
      try {
        execute(session, "SET ROLE " + q(role));
      } catch (SQLException notTheirs) {
        continue;
      }
      session.commit();
      for (Trial trial : trials) {
        if (!ever.get(trial)) {
          ever.put(trial, worked(session, trial.sql()));
        }
      }
    }
    ever.forEach(
        (trial, worked) -> {
          if (worked != held.ever(trial.key())) {
            mismatches.add(user + ": " + trial.sql() + ": after SET ROLE worked " + worked);
          }
        });
  }

  private static List<Trial> trials(Tree tree) {
    List<Trial> trials = new ArrayList<>();
    for (int node = 0; node < tree.size(); node++) {
      if (!tree.kind(node).isObject() || tree.isSystem(node)) {
        continue;
      }
      String name = name(tree, node);
      switch (tree.kind(node)) {
        case TABLE -> {
          trials.add(new Trial("INSERT " + node, "INSERT INTO " + name + " (A) VALUES (1)"));
          String grant = "GRANT SELECT ON TABLE " + name + " TO SOMEBODY";
          trials.add(new Trial("GRANT SELECT " + node, grant));
          trials.add(new Trial("DELETE " + node, "DELETE FROM " + name));
          for (int column = 0; column < tree.columns(node); column++) {
            String c = q(tree.column(node, column));
            trials.add(
                new Trial(
                    "UPDATE " + node + " " + column, "UPDATE " + name + " SET " + c + " = 1"));
            trials.add(new Trial("SELECT " + node + " " + column, "SELECT " + c + " FROM " + name));
          }
        }
        case VIEW -> trials.add(new Trial("SELECT " + node, "SELECT * FROM " + name));
        case SEQUENCE -> trials.add(new Trial("USAGE " + node, "VALUES NEXT VALUE FOR " + name));
        case ROUTINE -> {
          boolean called = tree.is(node, NodeFact.PROCEDURE);
          trials.add(
              new Trial(
                  "EXECUTE " + node, called ? "CALL " + name + "()" : "VALUES " + name + "(1)"));
        }
        default -> throw new AssertionError(tree.kind(node));
      }
    }
    return trials;
  }

  private static String name(Tree tree, int node) {
    return q(tree.name(tree.parent(node))) + "." + q(tree.name(node).replaceFirst("\\(\\)$", ""));
  }

  private static boolean worked(Connection session, String sql) throws SQLException {
    boolean worked = true;
    try {
      execute(session, sql);
    } catch (SQLException refused) {
      worked = !refused.getSQLState().startsWith("425");
    }
    session.rollback();
    return worked;
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private static Path shrunk(SheetServer server, int seed, int statements) throws Exception {
    Path file = Path.of("target/derby-" + seed + ".sql");
    new Shrinking(TRIES)
        .of(
            statements,
            kept -> {
              Login login = fresh("shrunk" + seed);
              try (Connection admin = server.connect(login, null)) {
                RandomDerby fewer = new RandomDerby(admin, seed, kept);
                fewer.build();
                boolean wrong = !mismatches(server, login, fewer).isEmpty();
                if (wrong) {
                  Files.write(file, fewer.script);
                }
                return wrong;
              } finally {
                drop(login);
              }
            });
    return file;
  }
}
