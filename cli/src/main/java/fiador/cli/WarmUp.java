package fiador.cli;

import fiador.files.survey.SurveyWriter;
import fiador.servers.Login;
import fiador.servers.Servers;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
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
      Path survey = folder.resolve("survey.jsonl");
      Login login = new Login("jdbc:hsqldb:mem:warm-up", "SA", "");
      SurveyWriter.write(
          Servers.named("hsqldb")
              .orElseThrow()
              .survey(login, "warm-up", List.of(), Instant.now(), note -> {}),
          survey);
      String from = survey.toString();
      String table = "INFORMATION_SCHEMA.TABLES";
      for (String format : List.of("text", "json", "csv")) {
        Main.run(
            nowhere, nowhere, "trace", "SA", "select", table, "--from", from, "--format", format);
        Main.run(nowhere, nowhere, "holdings", "SA", "--from", from, "--format", format);
        Main.run(nowhere, nowhere, "holders", table, "--from", from, "--format", format);
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
