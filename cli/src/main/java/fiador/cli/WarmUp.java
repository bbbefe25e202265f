package fiador.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * Does a bit of everything, so that the class-data archive the launcher makes of it holds what real
 * commands load.
 */
final class WarmUp {
  private WarmUp() {}

  public static void main(String[] args) throws Exception {
    PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
    Path folder = Files.createTempDirectory("fiador-warm-up");
    try {
      String tour = folder.resolve("tour").toString();
      Main.run(nowhere, nowhere, "tour", tour);
      String table = "billing.customers";
      for (String format : List.of("text", "json", "csv")) {
        Main.run(
            nowhere,
            nowhere,
            "trace",
            "alda.monte",
            "select",
            table,
            "--from",
            tour,
            "--format",
            format);
        Main.run(nowhere, nowhere, "holdings", "ines.duarte", "--from", tour, "--format", format);
        Main.run(nowhere, nowhere, "holders", table, "--from", tour, "--format", format);
      }
      Main.run(nowhere, nowhere, "new", folder.resolve("new").toString());
      Main.run(nowhere, nowhere, "check", folder.resolve("new").toString());
      Main.run(nowhere, nowhere, "--help");
    } finally {
      remove(folder);
    }
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }
}
