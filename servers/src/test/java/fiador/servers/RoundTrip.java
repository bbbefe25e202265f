package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.RandomSteps;
import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Use;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.repairs.Regroup;
import fiador.repairs.Sever;
import fiador.repairs.Trim;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
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
    List<Step> steps = new ArrayList<>(RandomSteps.renames(before, new Random(seed)));
    Access renamed = Outcome.of(before, steps).after();
    steps.addAll(RandomSteps.powers(renamed, new Random(seed)));
    steps.addAll(RandomSteps.of(renamed, new Random(seed), count));
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

  /**
   * Takes random privileges from random users as sever says, and what trim says can go: what is
   * left on the server is what was worked out, so the one is gone and all others stay.
   *
   * @return how often something was taken
   */
  public static int tightened(Server server, Login login, long seed, int times) throws Exception {
    Random random = new Random(seed);
    int taken = 0;
    for (int i = 0; i < times; i++) {
      // taking back does not bring back what only comes with all privileges
      Access before = survey(server, login);
      Trim.Result trim =
          i == 0 ? Trim.of(before, CLOCK, Expected.NOTHING, used(before, random)) : null;
      List<Step> steps =
          i == 0 ? trim.gap().plan().steps() : i == 1 ? severed(before, random) : regrouped(before);
      if (steps.isEmpty()) {
        continue;
      }
      SettleRun run = new SettleRun(server, login, user -> "secret".toCharArray());
      String what = "seed " + seed + " taken " + steps;
      try {
        run.carryOut(steps, new Silent());
      } catch (ServerException refused) {
        throw new AssertionError(what, refused);
      }
      Access after = survey(server, login);
      Access expected = Outcome.of(before, steps).after();
      same(all(expected), all(after), what);
      run.carryOut(new Done(after).undo(steps), new Silent());
      taken++;
    }
    return taken;
  }

  private static List<Step> regrouped(Access access) {
    if (!Regroup.isPossible(access)) {
      return List.of();
    }
    Regroup.Result result = Regroup.of(access, CLOCK, Expected.NOTHING, null);
    assertThat(result.exact()).isTrue();
    return result.gap().plan().steps();
  }

  private static Evidence used(Access access, Random random) {
    Map<Use, Instant> uses = new HashMap<>();
    Holdings holdings = new Holdings(access, CLOCK, false);
    for (int user = 1; user < access.principals().size(); user++) {
      for (Holding row :
          access.principals().isUser(user) ? holdings.of(user) : List.<Holding>of()) {
        if (row.columns() == null && random.nextInt(3) == 0) {
          uses.put(new Use(user, row.privilege(), row.node(), Evidence.ALL), Instant.EPOCH);
        }
      }
    }
    return new Evidence(Instant.EPOCH, Instant.EPOCH, uses, Map.of(), 1, 0, List.of(), Map.of());
  }

  private static List<Step> severed(Access access, Random random) {
    for (int attempt = 0; attempt < 20; attempt++) {
      int user = 1 + random.nextInt(access.principals().size() - 1);
      String name = access.principals().name(user);
      boolean fits =
          access.principals().isUser(user)
              && access.principals().powers(user) == 0
              && !access.rules().isOwn(name.replaceFirst("@.*", ""));
      List<Holding> theirs = fits ? new Holdings(access, CLOCK, false).of(user) : List.of();
      if (theirs.isEmpty()) {
        continue;
      }
      Holding one = theirs.get(random.nextInt(theirs.size()));
      Sever.Result result = new Sever(access, CLOCK).of(user, one.privilege(), one.node(), -1);
      if (!result.ways().isEmpty()) {
        return result.ways().get(0).gap().plan().steps();
      }
    }
    return List.of();
  }

  private static final Clock CLOCK = Clock.systemUTC();

  static void same(List<String> expected, List<String> is, String what) {
    List<String> missing = new ArrayList<>(expected);
    missing.removeAll(new HashSet<>(is));
    List<String> tooMuch = new ArrayList<>(is);
    tooMuch.removeAll(new HashSet<>(expected));
    assertThat(missing).as(what + ": missing").isEmpty();
    assertThat(tooMuch).as(what + ": too much").isEmpty();
  }

  static final class Silent implements SettleRun.Witness {
    @Override
    public void begins(List<Step> some) {}

    @Override
    public void done(List<Step> some, String sql) {}
  }

  static Access survey(Server server, Login login) throws ServerException {
    return Forms.of(server.survey(login, "s", List.of(), Instant.now(), note -> {}));
  }

  /** All holdings of everybody, by names. */
  static List<String> all(Access access) {
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
