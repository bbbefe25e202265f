package fiador.cli.change;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Spoken;
import fiador.refusal.Refusal;
import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import fiador.work.settling.UnmetDemands;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;

/** Settles all servers of a charter, some at a time; one that fails stops only itself. */
final class EveryServer {
  private static final int USUAL = 4;

  private final Spoken spoken;
  private final boolean looking;
  private final int atATime;
  private @Nullable IllegalStateException fault;

  /** Settles one server; gives the exit code that it would have alone. */
  @FunctionalInterface
  interface One {
    int settle(String server, Spoken spoken) throws Refusal, IOException;
  }

  /** What came of one, and what it said. */
  private record End(int code, ByteArrayOutputStream out, ByteArrayOutputStream err) {}

  /**
   * @param looking whether nothing is carried out
   * @param atATime how many are settled at the same time; null for as usual
   */
  EveryServer(Spoken spoken, boolean looking, @Nullable Integer atATime) {
    this.spoken = spoken;
    this.looking = looking;
    this.atATime = atATime == null ? USUAL : atATime;
  }

  /**
   * Does it, and says at the end how each came out; gives the gravest exit code. What each has to
   * say stands together, in the charter's order.
   *
   * @param addresses where each is, by its name
   */
  int each(Map<String, String> addresses, One one) {
    Set<String> servers = addresses.keySet();
    Map<String, CompletableFuture<End>> begun = new LinkedHashMap<>();
    Map<String, List<String>> rows = new LinkedHashMap<>();
    for (Map.Entry<String, String> each : addresses.entrySet()) {
      begun.put(each.getKey(), new CompletableFuture<>());
      rows.computeIfAbsent(each.getValue(), none -> new ArrayList<>()).add(each.getKey());
    }
    Map<String, Integer> ends = new LinkedHashMap<>();
    int together = Math.max(1, Math.min(atATime, rows.size()));
    if (together > 1) {
      spoken.say(servers.size() + " servers, " + together + " at the same time");
    }
    ExecutorService workers = Executors.newFixedThreadPool(together);
    try {
      rows.values().forEach(row -> workers.execute(() -> row(row, one, begun)));
      for (Map.Entry<String, CompletableFuture<End>> each : begun.entrySet()) {
        ends.put(each.getKey(), told(each.getKey(), each.getValue()));
      }
    } finally {
      workers.shutdown();
    }
    if (fault != null) {
      throw fault;
    }
    long well = ends.values().stream().filter(code -> code == Exit.YES).count();
    String as = looking ? "nothing to do on " : "as the charter says: ";
    PrintStream out = spoken.out();
    out.println(
        as + well + " of " + (servers.size() == 1 ? "1 server" : servers.size() + " servers"));
    Columns lines = new Columns(spoken.width());
    ends.forEach((server, code) -> lines.line(server, said(server, code)));
    out.print(lines.text());
    return ends.values().stream().mapToInt(code -> code).max().orElse(Exit.YES);
  }

  /** Settles those one after another that are at one address: each would keep the others out. */
  private void row(List<String> servers, One one, Map<String, CompletableFuture<End>> begun) {
    for (String server : servers) {
      CompletableFuture<End> mine = Objects.requireNonNull(begun.get(server));
      try {
        mine.complete(end(server, one));
      } catch (RuntimeException | Error ours) {
        mine.completeExceptionally(ours);
      }
    }
  }

  /** Waits for one, and passes on what it said. */
  private int told(String server, CompletableFuture<End> begun) {
    try {
      End end = begun.get();
      spoken.out().println(Tone.STRONG.of(Tone.visible(server)));
      spoken.out().print(end.out().toString(StandardCharsets.UTF_8));
      spoken.out().flush();
      spoken.err().print(end.err().toString(StandardCharsets.UTF_8));
      spoken.err().flush();
      spoken.out().println();
      return end.code();
    } catch (ExecutionException ours) {
      // a fault of our own is told when the others have come to their ends
      fault = new IllegalStateException("settling " + server, ours.getCause());
      return Exit.HALF_WAY;
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("settling " + server, stopped);
    }
  }

  private End end(String server, One one) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    try (PrintStream keptOut = new PrintStream(out, false, StandardCharsets.UTF_8);
        PrintStream keptErr = new PrintStream(err, false, StandardCharsets.UTF_8)) {
      return new End(code(server, one, spoken.into(keptOut, keptErr)), out, err);
    }
  }

  private static int code(String server, One one, Spoken kept) {
    try {
      return one.settle(server, kept);
    } catch (UnmetDemands unmet) {
      unmet.problems().forEach(kept.err()::println);
      return failed(server, unmet, Exit.BAD_INPUT, kept);
    } catch (Refusal refused) {
      boolean its = refused.reason() == Refusal.Reason.SERVER;
      return failed(server, refused, its ? Exit.SERVER : Exit.BAD_INPUT, kept);
    } catch (UncheckedIOException broken) {
      return failed(server, broken.getCause(), Exit.BAD_INPUT, kept);
    } catch (IOException broken) {
      return failed(server, broken, Exit.BAD_INPUT, kept);
    }
  }

  private static int failed(String server, Exception why, int code, Spoken kept) {
    kept.err().println("fiador settle: " + Tone.visible(server + ": " + why.getMessage()));
    return code;
  }

  private String said(String server, int code) {
    return switch (code) {
      case Exit.YES -> looking ? "nothing to do" : "as the charter says";
      case Exit.NO -> looking ? "something to do" : "something is still to do";
      case Exit.SERVER -> "could not be reached, or refused";
      case Exit.HALF_WAY -> "stopped half-way: fiador settle " + server + " --resume, or --undo";
      default -> "not begun";
    };
  }
}
