package fiador.cli.change;

import fiador.cli.shell.Exit;
import fiador.refusal.Refusal;
import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import fiador.work.settling.UnmetDemands;
import java.io.IOException;
import java.io.PrintStream;
import java.io.UncheckedIOException;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;

/** Settles all servers of a charter, one after another; one that fails stops only itself. */
final class EveryServer {
  private final PrintStream out;
  private final PrintStream err;
  private final boolean looking;

  /** Settles one server; gives the exit code that it would have alone. */
  @FunctionalInterface
  interface One {
    int settle(String server) throws Refusal, IOException;
  }

  /**
   * @param looking whether nothing is carried out
   */
  EveryServer(PrintStream out, PrintStream err, boolean looking) {
    this.out = out;
    this.err = err;
    this.looking = looking;
  }

  /** Does it, and says at the end how each came out; gives the gravest exit code. */
  int each(Collection<String> servers, One one, int width) {
    Map<String, Integer> ends = new LinkedHashMap<>();
    for (String server : servers) {
      out.println(Tone.STRONG.of(Tone.visible(server)));
      ends.put(server, end(server, one));
      out.println();
    }
    long well = ends.values().stream().filter(code -> code == Exit.YES).count();
    String as = looking ? "nothing to do on " : "as the charter says: ";
    out.println(
        as + well + " of " + (servers.size() == 1 ? "1 server" : servers.size() + " servers"));
    Columns lines = new Columns(width);
    ends.forEach((server, code) -> lines.line(server, said(server, code)));
    out.print(lines.text());
    return ends.values().stream().mapToInt(code -> code).max().orElse(Exit.YES);
  }

  private int end(String server, One one) {
    try {
      return one.settle(server);
    } catch (UnmetDemands unmet) {
      unmet.problems().forEach(err::println);
      return failed(server, unmet, Exit.BAD_INPUT);
    } catch (Refusal refused) {
      boolean its = refused.reason() == Refusal.Reason.SERVER;
      return failed(server, refused, its ? Exit.SERVER : Exit.BAD_INPUT);
    } catch (UncheckedIOException broken) {
      return failed(server, broken.getCause(), Exit.BAD_INPUT);
    } catch (IOException broken) {
      return failed(server, broken, Exit.BAD_INPUT);
    }
  }

  private int failed(String server, Exception why, int code) {
    out.flush();
    err.println("fiador settle: " + Tone.visible(server + ": " + why.getMessage()));
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
