package fiador.cli.change;

import fiador.changes.wanted.Wanted;
import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.Charter;
import fiador.files.extracts.Extracts;
import fiador.files.houses.HouseSheets;
import fiador.files.ledger.Ledger;
import fiador.files.ready.ReadySurveys;
import fiador.files.survey.SurveyReader;
import fiador.files.yaml.Mistakes;
import fiador.grants.Access;
import fiador.houses.HouseSheet;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.shown.FileLink;
import fiador.report.shown.Shown;
import fiador.servers.Servers;
import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.Transport;
import fiador.servers.kind.Server;
import fiador.servers.sheet.SheetServer;
import fiador.work.charters.Charters;
import fiador.work.charters.Ledgers;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.StringJoiner;

public final class SurveyCommand extends Common {
  /** Where a sheet is asked for that stands in no charter. */
  private static final String ASKED = "--house";

  String server;
  Path charter = Path.of("");
  String url;
  String login;
  String passwordEnv;
  String tls = "";
  String tlsAuthority = "";
  String keeper;
  Integer connectSeconds;
  Integer statementSeconds;
  List<String> databases = List.of();
  Path to;
  Path ledger;
  boolean verify;
  String house;
  Path extracts;
  List<Path> drivers = List.of();

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("SERVER", value -> server = value, "A server of the charter.");
    options.charter(value -> charter = value);
    options.option("--url", "URL", value -> url = value, "The address of a server in no charter.");
    options.option("--login", "NAME", value -> login = value, "The account to read with.");
    options.option(
        "--password-env",
        "VAR",
        value -> passwordEnv = value,
        "The environment variable that holds the account's secret.");
    options.option(
        "--tls",
        "HOW",
        value -> tls = value,
        "How much of the server is checked before the secret is sent: verify-full, verify-ca,",
        "unverified or off. Else verify-full, and nothing on this machine itself.");
    options.option(
        "--tls-authority",
        "FILE",
        value -> tlsAuthority = value,
        "The certificates that are trusted; else the Java runtime's own.");
    options.option(
        "--keeper",
        "NAME",
        value -> keeper = value,
        "The account that settles, whose guarded schema is believed; else the login.");
    options.option(
        "--connect-seconds",
        "N",
        Integer.class,
        value -> connectSeconds = value,
        "How long connecting may take; else 15.");
    options.option(
        "--statement-seconds",
        "N",
        Integer.class,
        value -> statementSeconds = value,
        "How long one statement may take; else 600.");
    options.list(
        "--database",
        "NAME",
        String.class,
        value -> databases = value,
        "Looks into this database only; may be given several times. Else into all.");
    options.option(
        "--to",
        "FILE",
        Path.class,
        value -> to = value,
        "Where to write; else where questions about the charter's server look for it.");
    options.option(
        "--ledger",
        "FILE",
        Path.class,
        value -> ledger = value,
        "Records it in this ledger; else a charter's server in the charter's.");
    options.option(
        "--house",
        "NAME",
        value -> house = value,
        "The house sheet of a server in no charter: NAME.house.yaml here, or one that comes along.");
    options.option(
        "--extracts",
        "DIR",
        Path.class,
        value -> extracts = value,
        "With --house: reads the files there that were exported from the server's catalog.");
    options.list(
        "--driver",
        "FILE",
        Path.class,
        value -> drivers = value,
        "With --house and --url: a file of the JDBC driver; may be given several times.");
    options.flag(
        "--verify",
        given -> verify = given,
        "Takes no survey: checks all of the one that is kept, and of its ready form. Exit code 1 when",
        "the ready form had to be made anew.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Reads a live server into a survey file.",
      "Users, roles, memberships, objects, columns, grants, ownership, views; no rows and no secrets."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador survey                     the only server of the charter in this folder",
      "  fiador survey waterworks          that server of the charter",
      "  fiador survey --verify            checks the survey that is kept, and its ready form",
      "  fiador survey --url jdbc:postgresql://db.example/app --login auditor \\",
      "                --password-env AUDITOR_SECRET --to app.survey.jsonl",
      "  fiador survey --house h2 --url jdbc:h2:/srv/app --login SA --to app.survey.jsonl",
      "  fiador survey --house cascade --extracts exported --to dw.survey.jsonl"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (verify) {
      return verified();
    }
    Access access;
    Path file = to;
    boolean alone = url != null || extracts != null || house != null;
    if (url != null && extracts != null) {
      throw new BadInput("--url asks a server and --extracts reads files: one of them");
    } else if (!drivers.isEmpty() && (house == null || url == null)) {
      throw new BadInput("--driver goes with --house NAME --url URL");
    }
    Charter chartered = alone ? null : Charters.read(charter);
    if (url == null && alone) {
      access = fromExtracts();
    } else if (url != null) {
      if (server != null) {
        throw new BadInput("a server of the charter and --url do not go together");
      }
      if (login == null || to == null) {
        throw new BadInput("--url needs --login NAME and --to FILE");
      }
      Server kind = house == null ? kindOf(url) : new SheetServer(sheet(), drivers);
      access = kind.survey(login(), nameOf(url), databases, clock.instant(), this::note);
    } else {
      Charter.ServerEntry entry = Charters.server(chartered, server);
      access = Surveys.take(chartered, entry, databases, clock.instant(), this::note);
      file = to == null ? Surveys.file(charter, entry.name()) : to;
    }
    Surveys.write(access, file);
    Path written = file;
    afterwards.add(() -> makeReady(written));
    say("surveyed " + summary(access));
    say("written to " + FileLink.to(file));
    try (Ledger kept =
        ledger != null
            ? Ledger.open(ledger)
            : chartered == null ? null : Ledgers.open(charter, chartered)) {
      if (kept != null) {
        boolean fresh = kept.record(access);
        say("recorded in the ledger: " + (fresh ? "not as it was before" : "as it was before"));
      }
    }
    return Exit.YES;
  }

  private Access fromExtracts() throws Refusal, IOException {
    if (house == null || extracts == null || to == null) {
      throw new BadInput(
          "--house goes with --extracts DIR or with --url URL --login NAME, and with --to FILE");
    }
    Path folder = extracts.toAbsolutePath().normalize().getFileName();
    return Extracts.read(sheet(), extracts, String.valueOf(folder), this::note);
  }

  private HouseSheet sheet() throws BadInput, IOException {
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet = HouseSheets.find(charter, house, mistakes, new Wanted.Place(ASKED, 1, 1));
    if (sheet == null) {
      StringJoiner all = new StringJoiner("\n");
      for (Mistakes.Mistake mistake : mistakes.list()) {
        boolean asked = mistake.place().file().equals(ASKED);
        all.add(asked ? mistake.message() : mistake.toString());
      }
      throw new BadInput(all.toString());
    }
    return sheet;
  }

  /** Reads what was written, once, so that questions need not. */
  private void makeReady(Path file) {
    try {
      new ReadySurveys(this::note, Runnable::run).read(file);
    } catch (Refusal | IOException gone) {
      note(file + " cannot be read back: " + gone.getMessage());
    }
  }

  private int verified() throws Refusal, IOException {
    if (url != null) {
      throw new BadInput("--verify is about a survey that is kept; --url goes with taking one");
    }
    Path file = to;
    if (file == null) {
      Charter chartered = Charters.read(charter);
      file = Surveys.file(charter, Charters.server(chartered, server).name());
    }
    Access access = SurveyReader.read(file);
    ReadySurveys.Verified found = ReadySurveys.verify(file);
    boolean right = found.wrong() == null;
    out.println(
        (right ? "right: " : "the survey is right, its ready form was not: ")
            + FileLink.to(file)
            + " of "
            + Shown.time(access.about().taken()));
    out.println("  " + summary(access));
    if (right) {
      out.println(
          "  its ready form belongs to it, and all " + found.pieces() + " pieces of it are right");
      return Exit.YES;
    }
    out.println("  " + FileLink.to(ReadySurveys.of(file)) + " " + found.wrong());
    out.println("  it is made anew");
    ReadySurveys.forget(file);
    makeReady(file);
    return Exit.NO;
  }

  private Login login() throws BadInput {
    Transport.Tls how = Transport.Tls.of(tls);
    if (how == null) {
      throw new BadInput(
          "--tls "
              + tls
              + " is not known; it is one of "
              + String.join(", ", Transport.Tls.words()));
    }
    if (Address.of(url).holdsSecret()) {
      throw new BadInput(
          "there is a secret in the address; leave it out and name the variable of the environment"
              + " that holds it: --password-env NAME");
    }
    Transport usual = Transport.USUAL;
    Transport transport =
        new Transport(
            how,
            tlsAuthority,
            connectSeconds == null ? usual.connectSeconds() : Math.max(1, connectSeconds),
            statementSeconds == null ? usual.statementSeconds() : Math.max(1, statementSeconds),
            usual.lockSeconds());
    return new Login(url, login, password(), transport, keeper == null ? login : keeper);
  }

  private String password() throws BadInput {
    if (passwordEnv == null) {
      return "";
    }
    String password = System.getenv(passwordEnv);
    if (password == null) {
      throw new BadInput(
          "the environment has no "
              + passwordEnv
              + "; --password-env names the variable that holds"
              + " the secret");
    }
    return password;
  }

  public static Server kindOf(String url) throws BadInput {
    return Servers.ofUrl(url)
        .orElseThrow(
            () ->
                new BadInput(
                    "the address "
                        + Address.of(url).shown()
                        + " is of no known kind; it should begin with one of "
                        + String.join(", ", Servers.urlPrefixes())
                        + "; for another kind name its house sheet with --house"));
  }

  /** The host and port, or the file: what is left of an address without its options. */
  static String nameOf(String url) {
    String bare = url.replaceFirst("^jdbc:[a-z]+:(//)?", "").replaceFirst("[?;].*$", "");
    String host = bare.replaceFirst("/.*$", "");
    return host.isEmpty() || host.endsWith(":") ? bare : host;
  }

  /** What a survey holds, in one sentence. */
  private static String summary(Access access) {
    int users = 0;
    for (int i = 0; i < access.principals().size(); i++) {
      users += access.principals().isUser(i) ? 1 : 0;
    }
    int roles = access.principals().size() - users - 1;
    int objects = 0;
    for (int node = 0; node < access.tree().size(); node++) {
      boolean counts = access.tree().kind(node).isObject() && !access.tree().isSystem(node);
      objects += counts ? 1 : 0;
    }
    return access.about().server()
        + " ("
        + access.about().kind()
        + (access.about().version().isEmpty() ? "" : " " + access.about().version())
        + "): "
        + users
        + " users, "
        + roles
        + " roles, "
        + access.memberships().size()
        + " memberships, "
        + objects
        + " objects, "
        + access.grants().size()
        + " grants"
        + (access.denials().size() == 0 ? "" : ", " + access.denials().size() + " denials");
  }
}
