package fiador.bench;

import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Times a sweep of many surveys, as a whole command, beside a process that does the same in one
 * loop ({@link SweepLoop}); and a second sweep where ten surveys changed.
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
    double plain = Processes.run(loop(checkout, args[2], surveys, null), folder, null) / count;
    Path looped = folder.resolve("looped");
    double loop = Processes.run(loop(checkout, args[2], surveys, looped), folder, null) / count;
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
        "%d surveys; a server takes: one loop %.0f ms and without writing %.0f ms, sweep with 1 core %.0f ms (%.2f of it), with 2 cores %.0f ms%n"
            + "second sweep: nothing changed %.1f s, %d changed %.1f s (%.3f of the first with 2 cores)%n",
        count,
        loop,
        plain,
        one,
        one / loop,
        two,
        nothing / 1e3,
        CHANGED,
        changed / 1e3,
        changed / (two * count));
  }

  private static List<String> loop(Path checkout, String memory, Path surveys, Path into) {
    List<String> line =
        new ArrayList<>(
            List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx" + memory,
                "-XX:+UseParallelGC",
                "-Dlog4j2.configurationFile=fiador-sweep-log4j2.properties",
                "-cp",
                checkout.resolve("bench/target/classes")
                    + File.pathSeparator
                    + checkout.resolve("sweep/target/engine")
                    + "/*",
                SweepLoop.class.getName(),
                surveys.toString()));
    if (into != null) {
      line.add(into.toString());
    }
    return line;
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
}
