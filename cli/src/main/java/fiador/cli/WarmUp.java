package fiador.cli;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Output;
import fiador.files.charter.CharterReader;
import fiador.files.ledger.Ledger;
import fiador.grants.rules.KnownHouses;
import java.io.BufferedOutputStream;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayList;
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

  private final PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
  private final List<String> failed = new ArrayList<>();

  WarmUp() {}

  /**
   * Takes {@code answers}, {@code looks} or {@code pictures} for those families; anything else is
   * everything.
   */
  public static void main(String[] args) throws Exception {
    new WarmUp().run(args.length == 0 ? "" : args[0]);
  }

  /**
   * Runs a family's commands.
   *
   * @return those that did not come to an answer, and so warmed less than they should
   */
  List<String> run(String family) throws IOException {
    Path folder = Files.createTempDirectory("fiador-warm-up");
    try {
      switch (family) {
        case "answers" -> answers(folder);
        case "looks" -> looks(folder);
        case "pictures" -> pictures(folder);
        default -> everything(folder);
      }
    } finally {
      remove(folder);
    }
    return failed;
  }

  private void command(String... args) {
    if (Main.run(nowhere, nowhere, args) > Exit.NO) {
      failed.add(String.join(" ", args));
    }
  }

  private void answers(Path folder) throws IOException {
    // the survey below is of one kind of server, and others are asked about as often
    KnownHouses.kinds().forEach(KnownHouses::newest);
    Files.createFile(folder.resolve(CharterReader.ROOT));
    survey(folder);
    for (String user : List.of("alda.monte", "ines.duarte")) {
      ask(folder, "trace", user, "select", "billing.customers");
      ask(folder, "trace", user, "select", "billing.customers.iban");
      ask(folder, "holdings", user);
    }
    ask(folder, "trace", "alda.monte", "select", "laboratory.samples");
    ask(folder, "holders", "billing.customers");
    ask(folder, "holders", "laboratory.samples");
    ask(folder, "list", "grants", "--to", "leak_analyst");
    ask(folder, "list", "members", "--role", "billing_read");
    String sql = "select i.amount from billing.invoices i where i.invoice_id > 1";
    ask(folder, "trace", "ines.duarte", "--statement", sql);
    Path wide = folder.resolve("wide.survey.jsonl");
    WideSurvey.write(wide);
    for (String user : List.of(WideSurvey.BUSY, WideSurvey.SHUT_OUT)) {
      ask(wide, "trace", user, "select", WideSurvey.TABLE);
      ask(wide, "holdings", user);
    }
    ask(wide, "holders", WideSurvey.TABLE);
    // most who mistype a name ask again at once
    refused("trace", "ines.durate", "select", "billing.customer", "--from", folder.toString());
    refused("holders", "billing.customer", "--from", folder.toString());
    end(folder.resolve("answer"));
  }

  /** A mistake is told like an answer, and what would be meant is looked for. */
  private void refused(String... args) {
    if (Main.run(nowhere, nowhere, args) == Exit.YES) {
      failed.add(String.join(" ", args));
    }
  }

  /** The stream of a real answer is closed at the end. */
  private static void end(Path file) throws IOException {
    try (Output answer =
        new Output(new BufferedOutputStream(new FileOutputStream(file.toFile())))) {
      answer.write('\n');
    }
  }

  private void looks(Path folder) throws IOException {
    unpackLibrary(System.getProperty("fiador.native"));
    for (String name : List.of("fiador.yaml", "roles.yaml", "users.yaml")) {
      Files.writeString(folder.resolve(name), TourExample.text(name));
    }
    survey(folder);
    // proofs about rows would open the server
    command("prove", "--charter", folder.toString());
    Files.writeString(folder.resolve("policies.yaml"), TourExample.text("policies.yaml"));
    ledger(folder.resolve(".fiador/ledger.db"));
    String table = "billing.invoices";
    ask(folder, "climb", "ines.duarte");
    ask(folder, "bypass");
    ask(folder, "sever", "marta.vale", "select", table);
    ask(folder, "findings", "--charter", folder.toString());
    ask(folder, "findings");
    Path packed = folder.resolve("packed.jsonl.gz");
    try (InputStream in = WarmUp.class.getResourceAsStream(SURVEY)) {
      Files.copy(in, packed);
    }
    command("climb", "ines.duarte", "--from", packed.toString());
    command("check", folder.toString());
    command("gap", "--charter", folder.toString());
    Path wide = folder.resolve("wide.survey.jsonl");
    WideSurvey.write(wide);
    ask(wide, "sever", WideSurvey.BUSY, "select", WideSurvey.TABLE);
    ask(wide, "findings");
    end(folder.resolve("answer"));
  }

  /** A ledger that knows when somebody's secret was set. */
  private static void ledger(Path file) throws IOException {
    try (Ledger ledger = Ledger.open(file)) {
      List<String> made = List.of("CREATE USER \"INES.DUARTE\" PASSWORD (secret)");
      long change = ledger.changes().begins("waterworks", "settle", "", Instant.EPOCH, made);
      ledger.changes().ended(change, Instant.EPOCH);
    }
  }

  private void pictures(Path folder) throws IOException {
    for (String name : List.of("fiador.yaml", "roles.yaml", "users.yaml", "policies.yaml")) {
      Files.writeString(folder.resolve(name), TourExample.text(name));
    }
    survey(folder);
    String from = folder.toString();
    for (String end : List.of("svg", "png", "pdf")) {
      String file = folder.resolve("picture." + end).toString();
      command("draw", "ines.duarte", "--from", from, "--to", file);
      command("draw", "matrix", "--from", from, "--to", file);
    }
    String file = folder.resolve("picture.svg").toString();
    command("draw", "roles", "--from", from, "--to", file);
    command("draw", "roles", "--around", "leak_analyst", "--from", from);
    command("draw", "billing.customers", "--from", from, "--to", file, "--dark");
    command("page", "--from", from, "--to", folder.resolve("page.html").toString());
    end(folder.resolve("answer"));
  }

  private static void survey(Path folder) throws IOException {
    Path survey = folder.resolve(".fiador/waterworks.survey.jsonl");
    Files.createDirectories(survey.getParent());
    try (InputStream packed = WarmUp.class.getResourceAsStream(SURVEY)) {
      Files.copy(new GZIPInputStream(packed), survey);
    }
  }

  private void ask(Path folder, String... question) {
    for (String format : List.of("text", "json", "csv")) {
      command(
          Stream.concat(
                  Stream.of(question), Stream.of("--from", folder.toString(), "--format", format))
              .toArray(String[]::new));
    }
  }

  private void everything(Path folder) throws IOException {
    unpackLibrary(System.getProperty("fiador.native"));
    String tour = folder.resolve("tour").toString();
    command("tour", tour);
    command("new", folder.resolve("new").toString());
    command("check", folder.resolve("new").toString());
    command("findings", "--from", tour);
    command("trim", "--from", tour, "--usage", tour + "/usage.jsonl");
    command("trim", "--from", tour, "--regroup");
    command("history", "ines.duarte", "--charter", tour);
    command("history", "--charter", tour);
    for (String user : List.of("ines.duarte", "alda.monte")) {
      command("holdings", user, "--from", tour, "--at", "2999-01-01");
      command("trace", user, "select", "billing.customers", "--from", tour, "--at", "2999-01-01");
      command("holders", "billing.customers", "--from", tour, "--at", "2999-01-01");
    }
    command("--help");
    end(folder.resolve("answer"));
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
