package fiador.servers.sheet;

import static fiador.servers.sheet.RandomDeeds.execute;
import static fiador.servers.sheet.RandomDeeds.q;
import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
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
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** Random estates on a real H2, known by its sheet alone: what we say equals what users can do. */
class H2ConformanceTest {
  private static final int SEEDS = Integer.getInteger("fiador.seeds", 6);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);
  private static final int NOT_ENOUGH_RIGHTS = 90096;
  private static final int TRIES = 120;
  private static final int EVERY = 5;

  @Test
  void everyHoldingEqualsWhatTheUserCanDo() throws Exception {
    SheetServer server = Sheets.server("h2");
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      Login login = new Login("jdbc:h2:mem:estate" + seed, "SA", "");
      try (Connection admin = server.connect(login, null)) {
        RandomH2 estate = new RandomH2(admin, seed, statement -> true);
        estate.build();
        assertThat(estate.done).as("statements carried out").isGreaterThan(180);
        Set<String> mismatches = mismatches(server, login, estate);
        if (!mismatches.isEmpty()) {
          mismatches.add("the estate, made small: " + shrunk(server, seed, estate.asked));
        }
        assertThat(mismatches).as("H2, seed %d: %d", seed, mismatches.size()).isEmpty();
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
    }
  }

  private static Set<String> mismatches(SheetServer server, Login login, RandomDeeds estate)
      throws Exception {
    Access access = Forms.of(server.survey(login, "real", List.of(), Instant.now(), note -> {}));
    Set<String> mismatches = new TreeSet<>();
    for (String user : estate.users) {
      // some users are missing in an estate that is made small
      if (access.principals().named(user) >= 0 && access.principals().named("SOMEBODY") >= 0) {
        try (Connection session = server.connect(login.as(user, "x"), null)) {
          session.setAutoCommit(false);
          compare(access, user, session, estate.admin, mismatches);
        }
      }
    }
    return mismatches;
  }

  private static void compare(
      Access access, String user, Connection session, Connection admin, Set<String> mismatches)
      throws SQLException {
    Held held = new Held(access, user);
    Tree tree = access.tree();
    for (int node = 0; node < tree.size(); node++) {
      NodeKind kind = tree.kind(node);
      boolean rows =
          kind == NodeKind.TABLE || kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
      if (!rows || tree.isSystem(node)) {
        continue;
      }
      String name = q(tree.name(tree.parent(node))) + "." + q(tree.name(node));
      String column = q(tree.column(node, 0));
      expect(held.live("SELECT " + node), session, "SELECT * FROM " + name, user, mismatches);
      if (kind == NodeKind.TABLE) {
        String insert = "INSERT INTO " + name + " (" + column + ") VALUES (1)";
        expect(held.live("INSERT " + node), session, insert, user, mismatches);
        String update = "UPDATE " + name + " SET " + column + " = 1";
        // the sheet says so: changing takes select
        boolean reads = held.live("SELECT " + node);
        boolean changes = reads && held.live("UPDATE " + node);
        expect(changes, session, update, user, mismatches);
        boolean deletes = reads && held.live("DELETE " + node);
        expect(deletes, session, "DELETE FROM " + name, user, mismatches);
        String grant = "GRANT SELECT ON " + name + " TO \"SOMEBODY\"";
        expect(held.live("GRANT SELECT " + node), session, grant, user, mismatches);
        execute(admin, "REVOKE ALL ON " + name + " FROM \"SOMEBODY\"");
      }
    }
  }

  private static void expect(
      boolean works, Connection session, String sql, String user, Set<String> mismatches)
      throws SQLException {
    boolean worked = true;
    try {
      execute(session, sql);
    } catch (SQLException refused) {
      worked = refused.getErrorCode() != NOT_ENOUGH_RIGHTS;
    }
    session.rollback();
    if (worked != works) {
      mismatches.add(user + ": " + sql + ": worked " + worked + ", we say " + works);
    }
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private static Path shrunk(SheetServer server, int seed, int statements) throws Exception {
    Login login = new Login("jdbc:h2:mem:shrunk" + seed, "SA", "");
    Path file = Path.of("target/h2-" + seed + ".sql");
    new Shrinking(TRIES)
        .of(
            statements,
            kept -> {
              try (Connection admin = server.connect(login, null)) {
                RandomH2 fewer = new RandomH2(admin, seed, kept);
                fewer.build();
                boolean wrong = !mismatches(server, login, fewer).isEmpty();
                if (wrong) {
                  Files.write(file, fewer.script);
                }
                execute(admin, "SHUTDOWN");
                return wrong;
              }
            });
    return file;
  }
}
