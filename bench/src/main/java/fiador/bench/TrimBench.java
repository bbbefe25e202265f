package fiador.bench;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.evidence.Evidence;
import fiador.evidence.EvidenceBuilder;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.repairs.Trim;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Random;

/** Times what can go from a generated estate: without knowing what is used, and knowing it. */
public final class TrimBench {
  private static final int ACTIVE_USERS = 1_000;
  private static final int USES = 10;

  private TrimBench() {}

  /** Takes a size. */
  public static void main(String[] args) {
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args.length == 0 ? "M" : args[0]);
    Access access = new EstateGenerator(size, 1).generate();
    Evidence evidence = evidence(access);
    for (int round = 0; round < 2; round++) {
      time("excess", access, null);
      time("unused", access, evidence);
    }
  }

  private static void time(String what, Access access, Evidence evidence) {
    long start = System.nanoTime();
    Trim.Result result = Trim.of(access, Clock.systemUTC(), Expected.NOTHING, evidence);
    double seconds = (System.nanoTime() - start) / 1e9;
    System.out.printf(
        "%s: %.2f s, %d cuts, %d uses kept, %d people lose something%n",
        what,
        seconds,
        result.cuts().size(),
        result.kept(),
        result.gap().effects().stream().mapToInt(each -> each.user()).distinct().count());
  }

  /** Some users, each of whom used some of what they hold. */
  private static Evidence evidence(Access access) {
    Random random = new Random(1);
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    EvidenceBuilder evidence = new EvidenceBuilder(access);
    for (int i = 0; i < ACTIVE_USERS; i++) {
      int user = 1 + random.nextInt(access.principals().size() - 1);
      List<Holding> theirs = access.principals().isUser(user) ? holdings.of(user) : List.of();
      for (int use = 0; use < USES && !theirs.isEmpty(); use++) {
        Holding one = theirs.get(random.nextInt(theirs.size()));
        if (one.state().works()) {
          int column = one.columns() == null ? Evidence.ALL : one.columns().nextSetBit(0);
          evidence.use(user, one.privilege(), one.node(), column, Instant.EPOCH);
        }
      }
    }
    return evidence.build();
  }
}
