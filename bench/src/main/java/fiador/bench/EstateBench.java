package fiador.bench;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.IntConsumer;

/**
 * Medians of the questions over 20 random users and tables of a generated estate, each asked once
 * before it counts. {@code EstateBench SIZE [FILE]}: with a file, the estate is written there too;
 * {@code -Dcontainers=15} lets so many grants in a hundred stand on schemas.
 */
public final class EstateBench {
  private static final int ASKED = 20;
  private static final int ROUNDS = 15;

  private EstateBench() {}

  /** Runs it. */
  public static void main(String[] args) throws IOException, InterruptedException {
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args[0]);
    int containers = Integer.getInteger("containers", 0);
    Access access = new EstateGenerator(size, 1, containers).generate();
    System.out.printf(
        "size %s: %d principals, %d nodes, %d memberships, %d grants%n",
        size,
        access.principals().size(),
        access.tree().size(),
        access.memberships().size(),
        access.grants().size());
    if (args.length > 1) {
      SurveyWriter.write(access, Path.of(args[1]));
    }
    Random random = new Random(7);
    int[] users = random.ints(ASKED, 1, size.users + 1).toArray();
    int[] tables = tables(access, random);
    Clock clock = Clock.systemUTC();
    Holdings holdings = new Holdings(access, clock, false);
    Holders holders = new Holders(access, clock);
    Tracer tracer = new Tracer(access, clock);
    AtomicLong seen = new AtomicLong();
    System.out.printf(
        "a user of the %d holds %.0f rows in the median%n",
        ASKED,
        Arrays.stream(users)
                .mapToLong(holdings::count)
                .sorted()
                .skip(ASKED / 2)
                .findFirst()
                .getAsLong()
            * 1.0);
    measure("holdings of a user, as rows", users, u -> seen.addAndGet(holdings.of(u).size()));
    measure("holdings of a user, counted", users, u -> seen.addAndGet(holdings.count(u)));
    measure("holders of a table, as rows", tables, t -> seen.addAndGet(holders.of(t).size()));
    int[] pair = new int[1];
    measure(
        "paths of a held pair, counted and the first 100 listed",
        users,
        u -> {
          List<Holding> held = holdings.at(u, heldTable(access, holdings, u, pair));
          seen.addAndGet(held.size());
        },
        u -> {
          Trace trace = tracer.trace(u, Privilege.SELECT, cached(u), -1, 100);
          seen.addAndGet(trace.paths().size());
        });
    everyone(access, size, clock);
    System.out.println("(answers counted: " + seen.get() + ")");
  }

  private static final java.util.Map<Integer, Integer> HELD = new java.util.HashMap<>();

  private static int cached(int user) {
    return HELD.get(user);
  }

  /** A table that the user may select from, so that there are paths. */
  private static int heldTable(Access access, Holdings holdings, int user, int[] pair) {
    return HELD.computeIfAbsent(
        user,
        u ->
            holdings.of(u).stream()
                .filter(row -> access.tree().kind(row.node()) == NodeKind.TABLE)
                .filter(row -> row.privilege() == Privilege.SELECT)
                .skip(pair[0]++ % 3)
                .findFirst()
                .map(Holding::node)
                .orElse(access.tree().size() - 1));
  }

  private static int[] tables(Access access, Random random) {
    int[] found = new int[ASKED];
    for (int i = 0; i < ASKED; ) {
      int node = random.nextInt(access.tree().size());
      if (access.tree().kind(node) == NodeKind.TABLE) {
        found[i++] = node;
      }
    }
    return found;
  }

  private static void measure(String what, int[] ids, IntConsumer question) {
    measure(what, ids, id -> {}, question);
  }

  private static void measure(String what, int[] ids, IntConsumer before, IntConsumer question) {
    double[] best = new double[ids.length];
    Arrays.fill(best, Double.MAX_VALUE);
    for (int id : ids) {
      before.accept(id);
    }
    double[] all = new double[ids.length * ROUNDS];
    for (int round = -ROUNDS; round < ROUNDS; round++) {
      for (int i = 0; i < ids.length; i++) {
        long start = System.nanoTime();
        question.accept(ids[i]);
        if (round >= 0) {
          all[round * ids.length + i] = (System.nanoTime() - start) / 1e6;
        }
      }
    }
    Arrays.sort(all);
    System.out.printf(
        "%-56s median %8.3f ms   90%% %8.3f ms   worst %8.3f ms%n",
        what, all[all.length / 2], all[all.length * 9 / 10], all[all.length - 1]);
  }

  private static void everyone(Access access, EstateGenerator.Size size, Clock clock)
      throws InterruptedException {
    long start = System.nanoTime();
    AtomicInteger next = new AtomicInteger(1);
    AtomicLong total = new AtomicLong();
    Thread[] workers = new Thread[Runtime.getRuntime().availableProcessors()];
    for (int i = 0; i < workers.length; i++) {
      workers[i] =
          new Thread(
              () -> {
                Holdings own = new Holdings(access, clock, false);
                long sum = 0;
                for (int user = next.getAndIncrement();
                    user <= size.users;
                    user = next.getAndIncrement()) {
                  sum += own.count(user);
                }
                total.addAndGet(sum);
              });
      workers[i].start();
    }
    for (Thread worker : workers) {
      worker.join();
    }
    System.out.printf(
        "holdings of every user, counted, %d threads: %.2f s, %d rows%n",
        workers.length, (System.nanoTime() - start) / 1e9, total.get());
  }
}
