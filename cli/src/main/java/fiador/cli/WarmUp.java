package fiador.cli;

import fiador.files.charter.CharterReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;

/**
 * Does a bit of everything, so that the class-data archive the launcher makes of it holds what real
 * commands load. A large archive takes longer to map than a short answer takes to find, so there
 * are two: one of the questions that are asked of a survey and answered at once, one of all else.
 */
final class WarmUp {
  /** A survey of the tour's server, for one has to be there before anything can be asked. */
  static final String SURVEY = "warm-up.survey.jsonl.gz";

  private WarmUp() {}

  /** Takes {@code answers} for the questions only; anything else is everything. */
  public static void main(String[] args) throws Exception {
    PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
    Path folder = Files.createTempDirectory("fiador-warm-up");
    try {
      if (args.length > 0 && args[0].equals("answers")) {
        answers(nowhere, folder);
      } else {
        everything(nowhere, folder);
      }
    } finally {
      remove(folder);
    }
  }

  private static void answers(PrintStream nowhere, Path folder) throws IOException {
    Path survey = folder.resolve(".fiador/x.survey.jsonl");
    Files.createDirectories(survey.getParent());
    Files.createFile(folder.resolve(CharterReader.ROOT));
    try (InputStream packed = WarmUp.class.getResourceAsStream(SURVEY)) {
      Files.copy(new GZIPInputStream(packed), survey);
    }
    for (String user : List.of("alda.monte", "ines.duarte")) {
      ask(nowhere, folder, "trace", user, "select", "billing.customers");
      ask(nowhere, folder, "trace", user, "select", "billing.customers.iban");
      ask(nowhere, folder, "holdings", user);
    }
    ask(nowhere, folder, "trace", "alda.monte", "select", "laboratory.samples");
    ask(nowhere, folder, "holders", "billing.customers");
    ask(nowhere, folder, "holders", "laboratory.samples");
  }

  private static void ask(PrintStream nowhere, Path folder, String... question) {
    for (String format : List.of("text", "json", "csv")) {
      Main.run(
          nowhere,
          nowhere,
          Stream.concat(
                  Stream.of(question), Stream.of("--from", folder.toString(), "--format", format))
              .toArray(String[]::new));
    }
  }

  private static void everything(PrintStream nowhere, Path folder) {
    String tour = folder.resolve("tour").toString();
    Main.run(nowhere, nowhere, "tour", tour);
    Main.run(nowhere, nowhere, "new", folder.resolve("new").toString());
    Main.run(nowhere, nowhere, "check", folder.resolve("new").toString());
    Main.run(nowhere, nowhere, "findings", "--from", tour);
    Main.run(nowhere, nowhere, "--help");
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }
}
