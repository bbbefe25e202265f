package fiador.cli;

import fiador.files.charter.CharterReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.sqlite.util.OSInfo;

/**
 * Does a bit of everything, so that the class-data archive the launcher makes of it holds what real
 * commands load. A large archive takes longer to map than a short answer takes to find, so there
 * are three: one of the questions that are asked of a survey and answered at once, one of what
 * looks the whole of it through or reads the charter beside it, one of all else.
 */
final class WarmUp {
  /** A survey of the tour's server, for one has to be there before anything can be asked. */
  static final String SURVEY = "warm-up.survey.jsonl.gz";

  private WarmUp() {}

  /** Takes {@code answers} or {@code looks} for those families; anything else is everything. */
  public static void main(String[] args) throws Exception {
    PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
    Path folder = Files.createTempDirectory("fiador-warm-up");
    try {
      if (args.length > 0 && args[0].equals("answers")) {
        answers(nowhere, folder);
      } else if (args.length > 0 && args[0].equals("looks")) {
        looks(nowhere, folder);
      } else {
        everything(nowhere, folder);
      }
    } finally {
      remove(folder);
    }
  }

  private static void answers(PrintStream nowhere, Path folder) throws IOException {
    Files.createFile(folder.resolve(CharterReader.ROOT));
    survey(folder);
    for (String user : List.of("alda.monte", "ines.duarte")) {
      ask(nowhere, folder, "trace", user, "select", "billing.customers");
      ask(nowhere, folder, "trace", user, "select", "billing.customers.iban");
      ask(nowhere, folder, "holdings", user);
    }
    ask(nowhere, folder, "trace", "alda.monte", "select", "laboratory.samples");
    ask(nowhere, folder, "holders", "billing.customers");
    ask(nowhere, folder, "holders", "laboratory.samples");
    ask(nowhere, folder, "list", "grants", "--to", "leak_analyst");
    ask(nowhere, folder, "list", "members", "--role", "billing_read");
    String sql = "select i.amount from billing.invoices i where i.invoice_id > 1";
    ask(nowhere, folder, "trace", "ines.duarte", "--statement", sql);
  }

  private static void looks(PrintStream nowhere, Path folder) throws IOException {
    for (String name : List.of("fiador.yaml", "roles.yaml", "users.yaml", "policies.yaml")) {
      Files.writeString(folder.resolve(name), TourExample.text(name));
    }
    survey(folder);
    String table = "billing.invoices";
    ask(nowhere, folder, "climb", "ines.duarte");
    ask(nowhere, folder, "bypass");
    ask(nowhere, folder, "sever", "marta.vale", "select", table);
    ask(nowhere, folder, "findings", "--charter", folder.toString());
    ask(nowhere, folder, "findings");
    Path packed = folder.resolve("packed.jsonl.gz");
    try (InputStream in = WarmUp.class.getResourceAsStream(SURVEY)) {
      Files.copy(in, packed);
    }
    Main.run(nowhere, nowhere, "climb", "ines.duarte", "--from", packed.toString());
    Main.run(nowhere, nowhere, "check", folder.toString());
    Main.run(nowhere, nowhere, "gap", folder.toString());
    Main.run(nowhere, nowhere, "prove", "--charter", folder.toString());
  }

  private static void survey(Path folder) throws IOException {
    Path survey = folder.resolve(".fiador/waterworks.survey.jsonl");
    Files.createDirectories(survey.getParent());
    try (InputStream packed = WarmUp.class.getResourceAsStream(SURVEY)) {
      Files.copy(new GZIPInputStream(packed), survey);
    }
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

  private static void everything(PrintStream nowhere, Path folder) throws IOException {
    unpackLibrary(System.getProperty("fiador.native"));
    String tour = folder.resolve("tour").toString();
    Main.run(nowhere, nowhere, "tour", tour);
    Main.run(nowhere, nowhere, "new", folder.resolve("new").toString());
    Main.run(nowhere, nowhere, "check", folder.resolve("new").toString());
    Main.run(nowhere, nowhere, "findings", "--from", tour);
    Main.run(nowhere, nowhere, "trim", "--from", tour, "--usage", tour + "/usage.jsonl");
    Main.run(nowhere, nowhere, "trim", "--from", tour, "--regroup");
    Main.run(nowhere, nowhere, "history", "ines.duarte", "--charter", tour);
    Main.run(nowhere, nowhere, "history", "--charter", tour);
    Main.run(nowhere, nowhere, "--help");
  }

  /**
   * Puts the library of the ledger's database where the launcher lets it be loaded from; else it is
   * unpacked at each start.
   */
  private static void unpackLibrary(String where) throws IOException {
    if (where == null) {
      return;
    }
    Path to = Path.of(where);
    String name = System.mapLibraryName("sqlitejdbc");
    String packed =
        "/org/sqlite/native/" + OSInfo.getNativeLibFolderPathForCurrentOS() + "/" + name;
    try (InputStream in = WarmUp.class.getResourceAsStream(packed)) {
      if (in != null) {
        Files.createDirectories(to);
        Path fresh = Files.createTempFile(to, "fresh", null);
        Files.copy(in, fresh, StandardCopyOption.REPLACE_EXISTING);
        Files.move(fresh, to.resolve(name), StandardCopyOption.ATOMIC_MOVE);
      }
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
