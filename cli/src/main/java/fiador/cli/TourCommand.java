package fiador.cli;

import fiador.cli.ask.BypassCommand;
import fiador.cli.ask.HistoryCommand;
import fiador.cli.ask.HoldersCommand;
import fiador.cli.ask.HoldingsCommand;
import fiador.cli.ask.PreviewCommand;
import fiador.cli.ask.ProveCommand;
import fiador.cli.ask.TraceCommand;
import fiador.cli.change.GapCommand;
import fiador.cli.change.SettleCommand;
import fiador.cli.change.SurveyCommand;
import fiador.cli.draw.DrawCommand;
import fiador.cli.draw.PageCommand;
import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.tidy.FindingsCommand;
import fiador.cli.tidy.SeverCommand;
import fiador.files.WholeFile;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;

final class TourCommand extends Common {
  Path folder = Path.of("aguarela-tour");
  String url;
  String login;
  String passwordEnv;
  boolean standIn;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional(
        "DIR",
        Path.class,
        value -> folder = value,
        "The folder to make; must be empty or not there.");
    options.option(
        "--url",
        "URL",
        value -> url = value,
        "Builds it on this PostgreSQL database, which should be empty.");
    options.option("--login", "NAME", value -> login = value, "The account to build it with.");
    options.option(
        "--password-env",
        "VAR",
        value -> passwordEnv = value,
        "The environment variable that holds the account's secret.");
    options.flag(
        "--stand-in",
        given -> standIn = given,
        "Takes another, shorter one, on a stand-in: with a denial, and what the server itself says.");
  }

  private static final String TARIFF_TOO = "select (customer_id, district, tariff) on";
  private static final String TARIFF_NOT = "select (customer_id, district) on";
  private static final String PIPES = "select on network.pipes, network.valves";
  private static final String PIPES_AND_INCIDENTS = PIPES + ", network.incidents";

  private TourSteps steps;

  @Override
  public String[] description() {
    return new String[] {
      "Builds a made-up estate in a fresh folder and walks through the whole job.",
      "It runs on the embedded database, or with --url on a PostgreSQL; it says what each command is."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador tour",
      "  fiador tour /tmp/waterworks",
      "  fiador tour --stand-in",
      "  fiador tour --url jdbc:postgresql://localhost/demo --login me --password-env MY_SECRET"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (url != null && standIn) {
      throw new BadInput("--url and --stand-in do not go together");
    }
    if (url != null && login == null) {
      throw new BadInput("--url needs --login NAME");
    }
    if (Files.exists(folder) && !TourExample.isEmpty(folder)) {
      throw new BadInput(
          folder + " is already there and not empty; name another folder, or remove it first");
    }
    steps = new TourSteps(this, folder);
    if (standIn) {
      return new StandInTour(folder, steps, out).take();
    }
    TourExample example = example();
    example.write();
    out.println("Aguarela Waterworks, a made-up water utility, is being built in " + folder + ".");
    out.println(
        "Its charter is there to read: fiador.yaml, roles.yaml, users.yaml. Each step below is a\n"
            + "command that can be given again, in that folder.");
    String server = Charters.server(Charters.read(folder), null).name();
    example.buildTables();
    settle();
    show(
        "What the server really has, read into one file that all questions are answered from.",
        new SurveyCommand(),
        "--charter",
        folder.toString());
    show("What does Ines hold, and through what?", new HoldingsCommand(), "ines.duarte");
    show("Who gets at the customers? One list.", new HoldersCommand(), "billing.customers");
    show(
        "Why can Ines read the tariffs?",
        new TraceCommand(),
        "ines.duarte",
        "select",
        "billing.customers.tariff");
    show(
        "Why can she not read the bank accounts, and what would it take?",
        new TraceCommand(),
        "ines.duarte",
        "select",
        "billing.customers.iban");
    change();
    rowsAndColumns();
    out.println(
        "\nThat is the tour. Go on in the folder "
            + folder
            + ": edit the charter, then fiador settle\n"
            + "--dry-run; or ask something else about "
            + server
            + ": fiador holdings --everyone");
    return Exit.YES;
  }

  private TourExample example() {
    return new TourExample(folder, url, login, passwordEnv);
  }

  /** A small change of the charter: seen before it runs, carried out, proved, and taken back. */
  private void change() throws Refusal, IOException {
    Path roles = folder.resolve("roles.yaml");
    String before = Files.readString(roles, StandardCharsets.UTF_8);
    write(roles, before.replace(TARIFF_TOO, TARIFF_NOT).replace(PIPES, PIPES_AND_INCIDENTS));
    out.println();
    out.println(
        "Somebody edits roles.yaml: leak analysts shall no longer see tariffs, contractors shall see\n"
            + "incidents.");
    String[] here = {"--charter", folder.toString()};
    show("What would that do, and to whom? Nothing is run.", new GapCommand(), here);
    show("Do it.", quiet(new SettleCommand()), here);
    show("Do the proofs of the charter still hold, on paper?", quiet(new ProveCommand()), here);
    show(
        "And on the server, tried as the people themselves?",
        quiet(new ProveCommand()),
        "--live",
        "--charter",
        folder.toString());
    show(
        "The first proof was there for a reason: back to what it was.",
        quiet(new SettleCommand()),
        "--undo",
        "--charter",
        folder.toString());
    write(roles, before);
  }

  /** Row and mask policies: what two people see before and after, and who gets round them. */
  private void rowsAndColumns() throws Refusal, IOException {
    String[] here = {"--charter", folder.toString()};
    show(
        "Rows and columns now. What does Ines get of the readings, as things are?",
        new PreviewCommand(),
        "ines.duarte",
        "metering.readings",
        "--rows",
        "3",
        "--charter",
        folder.toString());
    boolean live = Surveys.kind(example().entry()).dialect().become("somebody") != null;
    report(
        "A report asks for customers. What does it give Paulo, who approves but does not bill?",
        live,
        "paulo.matias");
    report("And Marta, who bills?", live, "marta.vale");
    write(folder.resolve("policies.yaml"), TourExample.text("policies.yaml"));
    out.println();
    out.println(
        "A file policies.yaml comes into the charter: everybody sees the districts that are theirs, by an\n"
            + "attribute or a desk; phones, mails and bank accounts are masked for all but billing. A view\n"
            + "takes the name of the customers' table, so that no report has to learn another.");
    show("Do it.", quiet(new SettleCommand()), here);
    show(
        live
            ? "And now? Worked out, and compared with what the server gives her."
            : "And now? Worked out from the rows; nobody can act as somebody else on this server.",
        new PreviewCommand(),
        with(
            live,
            "ines.duarte",
            "metering.readings",
            "--compare",
            "rui.teles",
            "--group-by",
            "district",
            "--rows",
            "3"));
    report("The same report, by the same name: what does Paulo get now?", live, "paulo.matias");
    report("And Marta, who bills?", live, "marta.vale");
    show("Does anybody get round these policies?", new BypassCommand());
    review();
  }

  /** What a report on customers gives somebody. */
  private void report(String what, boolean live, String who) throws Refusal, IOException {
    show(what, new PreviewCommand(), with(live, who, "billing.customers", "--rows", "2"));
  }

  private void review() throws Refusal, IOException {
    String trouble = "trouble/waterworks.survey.jsonl.gz";
    for (String name : new String[] {"people.csv", "people-before.csv", "usage.jsonl", trouble}) {
      Files.createDirectories(folder.resolve(name).getParent());
      try (InputStream in = TourCommand.class.getResourceAsStream("/aguarela/" + name)) {
        byte[] bytes = in.readAllBytes();
        WholeFile.write(folder.resolve(name), file -> file.write(bytes));
      }
    }
    String usage = folder.resolve("usage.jsonl").toString();
    String people = folder.resolve("people.csv").toString();
    show(
        "Is anything left to tidy up? What people use and who they are is looked at too.",
        new FindingsCommand(),
        "--usage",
        usage,
        "--people",
        people,
        "--people-before",
        folder.resolve("people-before.csv").toString());
    show(
        "And what was? When could Nuno read the incidents, and through what?",
        new HistoryCommand(),
        "nuno.faria",
        "select",
        "network.incidents",
        "--charter",
        folder.toString());
    show(
        "Elsewhere it is not so tidy: a survey of another server with trouble planted in it.",
        new FindingsCommand(),
        "--from",
        folder.resolve(trouble).toString(),
        "--charter",
        folder.toString(),
        "--people",
        people,
        "--at-least",
        "high");
    show(
        "One repair: Bruno may read every invoice there. What takes that with the least damage?",
        new SeverCommand(),
        "bruno.aires",
        "select",
        "billing.invoices",
        "--from",
        folder.resolve(trouble).toString());
    pictures();
  }

  private void pictures() throws Refusal, IOException {
    String from = folder.toString();
    show(
        "For those who would rather look: a role with its members and what it opens.",
        new DrawCommand(),
        "leak_analyst",
        "--from",
        from);
    show(
        "And a page to click through, in one file that can be sent to somebody.",
        new PageCommand(),
        "--from",
        from,
        "--to",
        folder.resolve("estate.html").toString());
  }

  private String[] with(boolean live, String... arguments) {
    List<String> all = new ArrayList<>(List.of(arguments));
    if (live) {
      all.add(2, "--live");
    }
    all.addAll(List.of("--charter", folder.toString()));
    return all.toArray(String[]::new);
  }

  private static <C extends Common> C quiet(C command) {
    command.quiet = true;
    return command;
  }

  private static void write(Path file, String text) throws IOException {
    WholeFile.write(file, to -> to.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  private void settle() throws Refusal, IOException {
    steps.title(
        "The charter says what there should be; the server has only tables. Make it so.",
        "fiador settle");
    SettleCommand settle = steps.prepared(new SettleCommand(), "--charter", folder.toString());
    settle.quiet = true;
    SecureRandom random = new SecureRandom();
    settle.otherSecrets =
        user -> {
          // nobody has to log in as these people, so nobody has to know
          byte[] bytes = new byte[24];
          random.nextBytes(bytes);
          return Base64.getEncoder().encodeToString(bytes).toCharArray();
        };
    settle.run();
  }

  private void show(String what, Common command, String... arguments) throws Refusal, IOException {
    steps.show(what, command, arguments);
  }
}
