package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Done;
import fiador.changes.Outcome;
import fiador.changes.RandomSteps;
import fiador.changes.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.grants.Access;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;

/**
 * Random changes carried out on a real server: what they come to is what was worked out beforehand,
 * and taking them back leads to where it began.
 */
public final class RoundTrip {
  private RoundTrip() {}

  /** Does it with some {@code count} changes; gives how many steps there were. */
  public static int of(Server server, Login login, long seed, int count) throws Exception {
    Access before = survey(server, login);
    List<Step> steps = RandomSteps.of(before, new Random(seed), count);
    Access expected = Outcome.of(before, steps).after();
    assertThat(new Done(expected).missing(steps)).as("seed " + seed + " worked out").isEmpty();
    SettleRun run = new SettleRun(server, login, user -> "secret".toCharArray());
    List<Step> done = new ArrayList<>();
    run.carryOut(
        steps,
        new SettleRun.Witness() {
          @Override
          public void begins(List<Step> some) {}

          @Override
          public void done(List<Step> some, String sql) {
            done.addAll(some);
          }
        });
    assertThat(done).hasSameSizeAs(steps);
    Access after = survey(server, login);
    assertThat(new Done(after).missing(steps)).as("seed " + seed).isEmpty();
    same(all(expected), all(after), "seed " + seed + " carried out " + steps);
    List<Step> back = new Done(after).undo(steps);
    assertThat(back).hasSameSizeAs(steps);
    run.carryOut(back, new Silent());
    Access again = survey(server, login);
    same(all(before), all(again), "seed " + seed + " undone " + steps);
    return steps.size();
  }

  private static void same(List<String> expected, List<String> is, String what) {
    List<String> missing = new ArrayList<>(expected);
    missing.removeAll(new HashSet<>(is));
    List<String> tooMuch = new ArrayList<>(is);
    tooMuch.removeAll(new HashSet<>(expected));
    assertThat(missing).as(what + ": missing").isEmpty();
    assertThat(tooMuch).as(what + ": too much").isEmpty();
  }

  private static final class Silent implements SettleRun.Witness {
    @Override
    public void begins(List<Step> some) {}

    @Override
    public void done(List<Step> some, String sql) {}
  }

  private static Access survey(Server server, Login login) throws ServerException {
    return server.survey(login, "s", List.of(), Instant.now(), note -> {});
  }

  /** All holdings of everybody, by names. */
  private static List<String> all(Access access) {
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    List<String> rows = new ArrayList<>();
    for (int user = 1; user < access.principals().size(); user++) {
      if (access.principals().isUser(user)) {
        for (Holding row : holdings.of(user)) {
          rows.add(
              access.principals().name(user)
                  + " "
                  + row.privilege()
                  + " "
                  + access.tree().path(row.node())
                  + " "
                  + row.columns()
                  + " "
                  + row.state()
                  + " "
                  + row.grantable());
        }
      }
    }
    rows.sort(null);
    return rows;
  }
}
