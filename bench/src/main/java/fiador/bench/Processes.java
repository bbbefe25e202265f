package fiador.bench;

import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/** Whole commands, timed from outside. */
final class Processes {
  private Processes() {}

  /** What starts and ends. */
  public static final class Nothing {
    private Nothing() {}

    /** Does nothing. */
    public static void main(String[] args) {
      // that is all
    }
  }

  /** A Java that only starts and ends, as the launcher would start it. */
  static List<String> bareJava() {
    return List.of(
        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
        "-XX:TieredStopAtLevel=1",
        "-XX:+UseSerialGC",
        "-XX:-UsePerfData",
        "-cp",
        Path.of(Processes.class.getProtectionDomain().getCodeSource().getLocation().getPath())
            .toString(),
        Nothing.class.getName());
  }

  /**
   * Runs a command to its end.
   *
   * @param answer where what it prints goes; null for nowhere
   * @return milliseconds
   */
  static double run(List<String> line, Path folder, File answer)
      throws IOException, InterruptedException {
    ProcessBuilder builder = new ProcessBuilder(line).directory(folder.toFile());
    builder.redirectOutput(
        answer == null ? ProcessBuilder.Redirect.DISCARD : ProcessBuilder.Redirect.to(answer));
    builder.redirectError(ProcessBuilder.Redirect.DISCARD);
    long start = System.nanoTime();
    int code = builder.start().waitFor();
    double taken = (System.nanoTime() - start) / 1e6;
    if (code > 1) {
      System.err.println("exit code " + code + " of " + line);
    }
    return taken;
  }

  static double median(double[] values) {
    double[] sorted = values.clone();
    Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }
}
