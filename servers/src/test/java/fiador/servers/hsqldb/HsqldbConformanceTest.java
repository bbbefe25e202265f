package fiador.servers.hsqldb;

import static fiador.servers.hsqldb.RandomHsqldb.execute;
import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.CharterTrip;
import fiador.servers.RoundTrip;
import fiador.servers.Shrinking;
import fiador.servers.jdbc.Login;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** Random estates on a real HSQLDB: every holding equals what statements run as the user do. */
class HsqldbConformanceTest {
  private static final int SEEDS = Integer.getInteger("fiador.seeds", 20);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  /** On every such one of the estates something is also taken away as reviews say. */
  private static final int EVERY = 5;

  private static final int TRIES = 120;

  @Test
  void everyHoldingEqualsWhatTheUserCanDo() throws Exception {
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      Login login = new Login("jdbc:hsqldb:mem:estate" + seed, "SA", "");
      HsqldbServer server = new HsqldbServer();
      try (Connection admin = server.connect(login, null)) {
        RandomHsqldb estate = new RandomHsqldb(admin, seed, statement -> true);
        estate.build();
        assertThat(estate.done).as("statements carried out").isGreaterThan(300);
        Set<String> mismatches = mismatches(server, login, estate);
        if (!mismatches.isEmpty()) {
          mismatches.add("the estate, made small: " + shrunk(seed, estate.asked));
        }
        assertThat(mismatches)
            .as("HSQLDB, seed %d: %d mismatches", seed, mismatches.size())
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
        execute(admin, "SHUTDOWN");
      }
    }
  }

  private static Set<String> mismatches(HsqldbServer server, Login login, RandomHsqldb estate)
      throws Exception {
    Access access = Forms.of(server.survey(login, "real", List.of(), Instant.now(), note -> {}));
    Set<String> mismatches = new TreeSet<>();
    for (String user : estate.users) {
      // some users are missing in an estate that is made small
      if (access.principals().named(user) < 0 || access.principals().named("somebody") < 0) {
        continue;
      }
      try (Connection session = server.connect(login, null);
          Connection nobody = server.connect(login, null)) {
        nobody.setAutoCommit(false);
        execute(nobody, "SET SESSION AUTHORIZATION 'somebody'");
        session.setAutoCommit(false);
        execute(session, "SET SESSION AUTHORIZATION '" + user.replace("'", "''") + "'");
        new HsqldbComparison(access, estate, user, session, nobody, mismatches).compare();
      }
    }
    return mismatches;
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private static Path shrunk(int seed, int statements) throws Exception {
    HsqldbServer server = new HsqldbServer();
    Login login = new Login("jdbc:hsqldb:mem:shrunk" + seed, "SA", "");
    Path file = Path.of("target/hsqldb-" + seed + ".sql");
    new Shrinking(TRIES)
        .of(
            statements,
            kept -> {
              try (Connection admin = server.connect(login, null)) {
                RandomHsqldb fewer = new RandomHsqldb(admin, seed, kept);
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
