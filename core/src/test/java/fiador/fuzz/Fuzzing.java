package fiador.fuzz;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Runs a coverage-guided fuzzer over each reader of a class for a while: {@code Fuzzing CLASS
 * SECONDS READER ...}. The class has {@code fuzzerTestOneInput} and goes by the property {@code
 * fiador.reader}. For the profile {@code fuzz}, whose class path has the fuzzer.
 */
public final class Fuzzing {
  private static final String FUZZER = "com.code_intelligence.jazzer.Jazzer";

  private Fuzzing() {}

  /** Exits with 1 when a reader failed on some input, which is then in target/fuzz. */
  public static void main(String[] args) throws IOException, InterruptedException {
    List<String> failed = new ArrayList<>();
    for (int i = 2; i < args.length; i++) {
      Path corpus = Files.createDirectories(Path.of("target/fuzz", args[i]));
      List<String> command =
          List.of(
              Path.of(System.getProperty("java.home"), "bin/java").toString(),
              "-Xmx1g",
              "-cp",
              System.getProperty("java.class.path"),
              "-Dfiador.reader=" + args[i],
              FUZZER,
              "--target_class=" + args[0],
              "--instrumentation_includes=fiador.**",
              "--reproducer_path=target/fuzz",
              "-artifact_prefix=target/fuzz/" + args[i] + "-",
              "-max_total_time=" + args[1],
              "-max_len=8192",
              "-timeout=2",
              "-rss_limit_mb=2500",
              "-print_final_stats=1",
              corpus.toString());
      Process process = new ProcessBuilder(command).inheritIO().start();
      if (process.waitFor() != 0) {
        failed.add(args[i]);
      }
    }
    System.out.println(failed.isEmpty() ? "no reader failed" : "failed: " + failed);
    System.exit(failed.isEmpty() ? 0 : 1);
  }
}
