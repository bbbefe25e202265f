package fiador.bench;

import fiador.climb.Climb;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.Privilege;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.repairs.Sever;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Times all findings, and taking a privilege away, on a generated estate. */
public final class ReviewBench {
  private static final int USERS = 40;

  private ReviewBench() {}

  /** Takes a size. */
  public static void main(String[] args) {
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args.length == 0 ? "M" : args[0]);
    Access access = new EstateGenerator(size, 1).generate();
    for (int round = 0; round < 3; round++) {
      long start = System.nanoTime();
      Findings.Result found = Findings.of(access, Clock.systemUTC(), Expected.NOTHING, null, null);
      System.out.printf(
          "all findings: %.2f s, %d found, %d MB in use%n",
          (System.nanoTime() - start) / 1e9, found.open().size(), used());
      if (round == 2) {
        Map<String, Integer> counts = new TreeMap<>();
        for (Finding each : found.open()) {
          counts.merge(each.asked().id(), 1, Integer::sum);
        }
        System.out.println(counts);
      }
    }
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    long[] times = new long[USERS];
    for (int i = 0; i < USERS; i++) {
      int user = 1 + i * (size.users / USERS);
      List<Holding> theirs = holdings.of(user);
      Holding one =
          theirs.stream()
              .filter(row -> row.privilege() == Privilege.SELECT)
              .skip(Math.max(0, theirs.size() / 3 - 1))
              .findFirst()
              .orElse(theirs.get(0));
      long start = System.nanoTime();
      new Sever(access, Clock.systemUTC()).of(user, one.privilege(), one.node(), -1);
      times[i] = System.nanoTime() - start;
    }
    Arrays.sort(times);
    System.out.printf(
        "sever: median %.0f ms, longest %.0f ms of %d%n",
        times[USERS / 2] / 1e6, times[USERS - 1] / 1e6, USERS);
    long start = System.nanoTime();
    new Climb(access).of(1);
    System.out.printf("climb: %.1f ms%n", (System.nanoTime() - start) / 1e6);
  }

  private static long used() {
    Runtime runtime = Runtime.getRuntime();
    return (runtime.totalMemory() - runtime.freeMemory()) >> 20;
  }
}
