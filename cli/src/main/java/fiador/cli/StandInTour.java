package fiador.cli;

import fiador.cli.ask.HoldersCommand;
import fiador.cli.ask.PreviewCommand;
import fiador.cli.ask.ProveCommand;
import fiador.cli.ask.TraceCommand;
import fiador.cli.change.SettleCommand;
import fiador.cli.change.SurveyCommand;
import fiador.cli.shell.Exit;
import fiador.cli.tidy.FindingsCommand;
import fiador.cli.tidy.SeverCommand;
import fiador.files.WholeFile;
import fiador.files.houses.HouseSheets;
import fiador.refusal.Refusal;
import fiador.servers.jdbc.ServerException;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import fiador.work.charters.Environment;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HexFormat;
import java.util.StringJoiner;

/**
 * The same utility on a stand-in: what a denial does, what the server itself says to the people,
 * and what it noted of them.
 */
final class StandInTour {
  private static final int TRIES = 6;
  private static final int SECRET_BYTES = 12;
  private static final String KEEPER = "keeper";
  private static final String VARIABLE = "AGUARELA_KEEPER";
  private static final String INES = "ines.duarte";
  private static final String NUNO = "nuno.faria";
  private static final String CLARA = "clara.pinho";
  private static final String TOME = "tome.avelar";
  private static final String CUSTOMERS = "waterworks.billing.customers";
  private static final String LABORATORY = "waterworks.laboratory";

  private final Path folder;
  private final TourSteps steps;
  private final PrintStream out;
  private final String secret = random();

  StandInTour(Path folder, TourSteps steps, PrintStream out) {
    this.folder = folder;
    this.steps = steps;
    this.out = out;
  }

  private static String random() {
    byte[] bytes = new byte[SECRET_BYTES];
    new SecureRandom().nextBytes(bytes);
    return HexFormat.of().formatHex(bytes);
  }

  int take() throws Refusal, IOException {
    Path server = folder.resolve("server");
    String sheet = HouseSheets.text("cascade");
    Settings settings = Settings.local(server, sheet, KEEPER, secret.toCharArray(), 0);
    Environment.have(VARIABLE, secret);
    try (StandIn standIn = StandIn.start(settings)) {
      onlyForTheOwner("keeper.secret", secret);
      write("fiador.yaml", charter(standIn.port()));
      out.println(
          "Aguarela Waterworks, a made-up water utility, on a stand-in: a small server that begins in\n"
              + folder
              + " and behaves like the house sheet cascade, with denials and with grants that\n"
              + "come down. Its charter is there to read: fiador.yaml.");
      walk(standIn.port());
      out.println(
          "\nThat is the tour. To go on, start the server again, and ask in the folder of its charter:\n"
              + "  fiador stand-in "
              + server
              + " --port "
              + standIn.port()
              + "\n  export "
              + VARIABLE
              + "=$(cat "
              + folder.resolve("keeper.secret")
              + ")");
    } catch (SQLException broken) {
      throw new ServerException("the stand-in did not do its part: " + broken.getMessage(), broken);
    } finally {
      Environment.forget(VARIABLE);
    }
    return Exit.YES;
  }

  private String charter(int port) throws IOException {
    return TourExample.text("stand-in/fiador.yaml").replace("PORT", String.valueOf(port));
  }

  private void write(String name, String text) throws IOException {
    WholeFile.write(folder.resolve(name), to -> to.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  private void onlyForTheOwner(String name, String text) throws IOException {
    write(name, text);
    Path file = folder.resolve(name);
    if (file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    }
  }

  private static Connection as(int port, String user, String secret) throws SQLException {
    return DriverManager.getConnection("jdbc:standin://127.0.0.1:" + port + "/", user, secret);
  }

  private void walk(int port) throws Refusal, IOException, SQLException {
    try (Connection keeper = as(port, KEEPER, secret);
        Statement statement = keeper.createStatement()) {
      for (String sql : TourExample.text("stand-in/tables.sql").split(";\\s*\\n", -1)) {
        if (!sql.isBlank()) {
          statement.execute(sql);
        }
      }
    }
    String[] here = {"--charter", folder.toString()};
    steps.title(
        "The charter says what there should be, and what may not be; the server has only tables.",
        "fiador settle");
    SettleCommand settle = steps.prepared(new SettleCommand(), here);
    settle.quiet = true;
    // all that are made here have one secret, which ends with the tour
    settle.otherSecrets = user -> secret.toCharArray();
    settle.run();
    steps.show("What the server really has.", new SurveyCommand(), here);
    steps.show(
        "Why can Ines not read bank accounts, although her role reads all of billing?",
        new TraceCommand(),
        INES,
        "select",
        "billing.customers.iban");
    steps.show("Who gets at the customers?", new HoldersCommand(), "billing.customers");
    ask(
        port,
        "And the server itself? It is asked as Ines, in its own words.",
        INES,
        "SELECT iban FROM waterworks.billing.customers");
    ask(
        port,
        "What she may read it gives her.",
        INES,
        "SELECT full_name, tariff FROM waterworks.billing.customers ORDER BY customer_id");
    steps.show(
        "The charter has proofs: what must be so. The server is asked about each as the one it is about.",
        new ProveCommand(),
        "--live",
        "--charter",
        folder.toString());
    policies(here);
    labels(port, here);
    laboratory(port, here);
    noted(port);
    steps.show(
        "Marta shall no longer read invoices, and keep all else. What takes that with the least damage?",
        new SeverCommand(),
        "marta.vale",
        "select",
        "billing.invoices");
  }

  /** Rows and masks, which this server has on the table itself. */
  private void policies(String... here) throws Refusal, IOException {
    write("policies.yaml", TourExample.text("stand-in/policies.yaml"));
    out.println(
        "\nA file policies.yaml comes into the charter: everybody sees the customers of their own\n"
            + "districts, and names in full only who bills.");
    SettleCommand settle = steps.prepared(new SettleCommand(), here);
    steps.title("Do it.", "fiador settle");
    settle.quiet = true;
    settle.run();
    steps.show(
        "What does Ines get now? Worked out, and compared with what the server gives her.",
        new PreviewCommand(),
        INES,
        "billing.customers",
        "--live",
        here[0],
        here[1]);
  }

  /** What is given and refused by the server's own labels counts, and stays as it is. */
  private void labels(int port, String... here) throws Refusal, IOException, SQLException {
    String sql = "REFUSE SELECT ON LABEL personal TO regulator";
    steps.title(
        "The server has labels of its own. Names are personal, and the regulator, who is given the\n"
            + "whole database, may not read what carries that label.",
        sql);
    try (Connection keeper = as(port, KEEPER, secret)) {
      carryOut(keeper, "PUT LABEL personal ON " + CUSTOMERS + " (full_name, iban)");
      carryOut(keeper, sql);
    }
    out.println("  refused from now on");
    ask(port, "So Tome gets districts.", TOME, "SELECT DISTINCT district FROM " + CUSTOMERS);
    ask(port, "But no names.", TOME, "SELECT full_name FROM " + CUSTOMERS);
    survey(here);
    steps.show("Why not?", new TraceCommand(), TOME, "select", "billing.customers.full_name");
  }

  private void survey(String... here) throws Refusal, IOException {
    SurveyCommand again = steps.prepared(new SurveyCommand(), here);
    again.quiet = true;
    again.run();
  }

  /** Whoever administers the server is kept out of what is sealed, by the server itself. */
  private void laboratory(int port, String... here) throws Refusal, IOException, SQLException {
    steps.title(
        "The laboratory is nobody's business but Clara's and her chemists'. She comes to own it, sets\n"
            + "a secret that nobody else knows, and seals it.",
        "SEAL SCHEMA " + LABORATORY);
    try (Connection keeper = as(port, KEEPER, secret)) {
      carryOut(keeper, "ALTER TABLE " + LABORATORY + ".samples OWNER TO \"" + CLARA + '"');
      carryOut(keeper, "ALTER SCHEMA " + LABORATORY + " OWNER TO \"" + CLARA + '"');
    }
    try (Connection clara = as(port, CLARA, secret)) {
      carryOut(clara, "ALTER USER \"" + CLARA + "\" PASSWORD '" + random() + "'");
      carryOut(clara, "SEAL SCHEMA " + LABORATORY);
    }
    out.println("  sealed");
    ask(
        port,
        "Even the keeper, who administers the server, does not get in any more.",
        KEEPER,
        "SELECT lead_ug FROM " + LABORATORY + ".samples");
    ask(
        port,
        "Nor can the keeper let themselves in.",
        KEEPER,
        "GRANT USAGE ON SCHEMA " + LABORATORY + " TO keeper");
    survey(here);
    steps.show("Why not?", new TraceCommand(), KEEPER, "select", "laboratory.samples.lead_ug");
    steps.show("Who does?", new HoldersCommand(), "laboratory.samples");
  }

  private static void carryOut(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private void ask(int port, String what, String user, String sql) throws SQLException {
    steps.title(what, sql);
    try (Connection theirs = as(port, user, secret);
        Statement statement = theirs.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        StringJoiner row = new StringJoiner("  ", "  ", "");
        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
          row.add(rows.getString(i));
        }
        out.println(row);
      }
    } catch (SQLException refused) {
      out.println("  refused: " + refused.getMessage());
    }
  }

  /** Nuno keeps trying; the server's own log says so, and a finding makes something of it. */
  private void noted(int port) throws Refusal, IOException, SQLException {
    try (Connection nuno = as(port, NUNO, secret);
        Statement statement = nuno.createStatement()) {
      for (int i = 0; i < TRIES; i++) {
        try {
          statement.execute("SELECT position FROM waterworks.network.valves");
        } catch (SQLException refused) {
          // that is the point
        }
      }
    }
    StringBuilder csv = new StringBuilder();
    try (Connection keeper = as(port, KEEPER, secret);
        Statement statement = keeper.createStatement();
        ResultSet uses = statement.executeQuery("SELECT * FROM catalog.uses ORDER BY used_at")) {
      int columns = uses.getMetaData().getColumnCount();
      StringJoiner header = new StringJoiner(",", "", "\n");
      for (int i = 1; i <= columns; i++) {
        header.add(uses.getMetaData().getColumnLabel(i));
      }
      csv.append(header);
      while (uses.next()) {
        StringJoiner row = new StringJoiner(",", "", "\n");
        for (int i = 1; i <= columns; i++) {
          row.add(uses.getString(i) == null ? "" : uses.getString(i));
        }
        csv.append(row);
      }
    }
    write("uses.csv", csv.toString());
    steps.show(
        "Nuno has tried the valves some times. The server notes what was used and refused; what is odd?",
        new FindingsCommand(),
        "--usage",
        folder.resolve("uses.csv").toString());
  }
}
