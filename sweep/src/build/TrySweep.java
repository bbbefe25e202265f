import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * Unpacks the engine where Fiador was unpacked and sweeps an example with it, as somebody would who
 * gets both. What is only wrong in the one archive, where other versions stand apart, shows here.
 */
public final class TrySweep {
  private TrySweep() {}

  /** Arguments: the folder of the ordinary release, that of the engine, the version, extracts. */
  public static void main(String[] args) throws Exception {
    String name = "fiador-" + args[2];
    Path fresh = Files.createTempDirectory("fiador-sweep");
    try {
      run(fresh, "tar", "xzf", Path.of(args[0], name + ".tar.gz").toString());
      String fiador = fresh.resolve(name + "/bin/fiador").toString();
      run(fresh, fiador, "survey", "--house", "cascade", "--extracts", args[3], "--to", "s/dw.survey.jsonl");
      String[] sweep = {fiador, "sweep", "s", "--into", "swept"};
      String missing = run(2, fresh, sweep);
      require(missing.contains("the engine for sweeps is not here"), "it says: " + missing);
      run(fresh, "tar", "xzf", Path.of(args[1], "fiador-sweep-" + args[2] + ".tar.gz").toString());
      String swept = run(fresh, sweep);
      require(swept.contains("1 server worked out, 0 as before"), "it says: " + swept);
      String who = run(fresh, fiador, "sweep", "who", "swept", "--object", "*readings", "--may", "insert");
      require(who.contains("rui.antunes"), "it says: " + who);
      require(!who.contains("WARN") && !who.contains("INFO"), "it says more: " + who);
    } finally {
      try (Stream<Path> all = Files.walk(fresh)) {
        all.sorted(Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
      }
    }
    System.out.println("the engine works from where it was unpacked");
  }

  private static String run(Path folder, String... command) throws Exception {
    return run(0, folder, command);
  }

  private static String run(int expected, Path folder, String... command)
      throws IOException, InterruptedException {
    List<String> line = new ArrayList<>(List.of(command));
    Process process =
        new ProcessBuilder(line).directory(folder.toFile()).redirectErrorStream(true).start();
    process.getOutputStream().close();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    require(process.waitFor() == expected, line + " ended with " + process.exitValue() + ": " + said);
    return said;
  }

  private static void require(boolean holds, String otherwise) {
    if (!holds) {
      throw new IllegalStateException(otherwise);
    }
  }
}
