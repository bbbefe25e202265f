package fiador.bench;

import fiador.cli.tidy.Reviewing;
import fiador.effects.Holdings;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.report.text.FindingText;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Times a sweep of many surveys of a size, as a whole command, beside one loop that reads each
 * survey and works out the same and keeps nothing; and a second sweep where ten surveys changed.
 */
public final class SweepBench {
  private static final int CHANGED = 10;

  private SweepBench() {}

  /** Takes how many surveys, a folder for them, how much memory, and the checkout. */
  public static void main(String[] args) throws Exception {
    int count = Integer.parseInt(args[0]);
    Path folder = Path.of(args[1]);
    Path checkout = Path.of(args[3]);
    Path surveys = Files.createDirectories(folder.resolve("surveys"));
    for (int at = 0; at < count; at++) {
      survey(surveys, at, at);
    }
    String into = folder.resolve("swept").toString();
    List<String> line =
        new ArrayList<>(
            List.of(
                checkout.resolve("fiador").toString(),
                "sweep",
                surveys.toString(),
                "--into",
                into,
                "--memory",
                args[2],
                "--again",
                "--cores",
                "1"));
    double one = Processes.run(line, folder, null) / count;
    double loop = loop(surveys, count) / count;
    line.set(line.size() - 1, "2");
    double two = Processes.run(line, folder, null) / count;
    line.remove("--again");
    double nothing = Processes.run(line, folder, null);
    for (int at = 0; at < CHANGED; at++) {
      Files.delete(file(surveys, at));
      survey(surveys, at, at + 1_000_000);
    }
    double changed = Processes.run(line, folder, null);
    System.out.printf(
        Locale.ROOT,
        "%d surveys; a server takes: one loop %.0f ms, sweep with 1 core %.0f ms (%.2f of it), with 2 cores %.0f ms%n"
            + "second sweep: nothing changed %.1f s, %d changed %.1f s (%.3f of the first with 2 cores)%n",
        count,
        loop,
        one,
        one / loop,
        two,
        nothing / 1e3,
        CHANGED,
        changed / 1e3,
        changed / (two * count));
  }

  private static Path file(Path surveys, int at) {
    return surveys.resolve("server_" + at + ".survey.jsonl");
  }

  private static void survey(Path surveys, int at, long seed) throws IOException {
    if (!Files.exists(file(surveys, at))) {
      Access access = new EstateGenerator(EstateGenerator.Size.M, seed).generate();
      SurveyWriter.write(access, file(surveys, at));
    }
  }

  private static double loop(Path surveys, int count) throws Exception {
    Clock clock = Clock.systemUTC();
    long rows = 0;
    long start = System.nanoTime();
    for (int at = 0; at < count; at++) {
      Access access = SurveyReader.read(file(surveys, at));
      Holdings holdings = new Holdings(access, clock, false);
      for (int user = 1; user < access.principals().size(); user++) {
        rows += access.principals().isUser(user) ? holdings.of(user).size() : 0;
      }
      FindingText text =
          new FindingText(access, 100, clock.instant(), Reviewing.statements(null, access));
      for (Finding finding :
          Findings.of(access, clock, Expected.NOTHING, null, null).open()) {
        rows += text.row(finding).size();
      }
    }
    double taken = (System.nanoTime() - start) / 1e6;
    System.out.println(rows + " in one loop");
    return taken;
  }
}
