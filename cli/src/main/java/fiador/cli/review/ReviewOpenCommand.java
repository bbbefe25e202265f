package fiador.cli.review;

import fiador.changes.wanted.WantedSight.Labelled;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.People;
import fiador.estate.Nearest;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.files.ledger.ReviewBook;
import fiador.files.usage.UsageReader;
import fiador.findings.Findings;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.text.HistoryText;
import fiador.report.text.ReviewText;
import fiador.reviews.Drafting;
import fiador.reviews.Drafting.Draft;
import fiador.reviews.Line;
import fiador.reviews.Reviewers;
import fiador.reviews.Scope;
import fiador.reviews.Whose;
import fiador.work.charters.Charters;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

public final class ReviewOpenCommand extends ReviewStep {
  String name;
  List<String> schemas = List.of();
  List<String> labels = List.of();
  List<String> roles = List.of();
  List<String> persons = List.of();
  Reviewers.By by = Reviewers.By.SCHEMA;
  Map<String, String> named = new LinkedHashMap<>();
  String otherwise;
  List<Path> usage = List.of();
  People people = new People();
  String server;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("NAME", value -> name = value, "What the review is called.");
    options.list(
        "--schema",
        "SCHEMA",
        String.class,
        value -> schemas = value,
        "Only this; may be repeated.");
    options.list(
        "--label",
        "LABEL",
        String.class,
        value -> labels = value,
        "Only tables that carry this label of the charter, or have columns that do.");
    options.list(
        "--role",
        "ROLE",
        String.class,
        value -> roles = value,
        "Only who has this role, and that.");
    options.list(
        "--person",
        "NAME",
        String.class,
        value -> persons = value,
        "Only this user; or this person of the list or the charter, with all accounts.");
    options.option(
        "--by",
        "WHO",
        Reviewers.By.class,
        value -> by = value,
        "Who is asked: schema (its owner), role (who may give it), manager.");
    options.map(
        "--reviewer", "X=NAME", value -> named = value, "Who is asked about the schema or role X.");
    options.option(
        "--else", "NAME", value -> otherwise = value, "Who is asked where there is nobody else.");
    options.list(
        "--usage", "LOG", Path.class, value -> usage = value, "A server's log of what was used.");
    people.options(options);
    options.option("--server", "NAME", value -> server = value, "Which server of the charter.");
  }

  @Override
  public int step() throws Refusal, IOException {
    if (!name.matches("[\\w][\\w.-]{0,60}")) {
      throw new BadInput("a review's name is of letters, digits, _ . and -, not: " + name);
    }
    if (reviews.book().read(name) != null) {
      throw new BadInput("there is a review " + name + " already; take another name");
    }
    if (by == Reviewers.By.MANAGER && people.source == null) {
      throw new BadInput("--by manager needs --people FILE");
    }
    String asked = Charters.server(charter, server).name();
    Access access = reviews.newest(asked);
    Identities identities = people.read();
    Identities everybody = everybody(identities);
    Whose whose = new Whose(access, everybody);
    Scope scope = scope(access, whose);
    Drafting drafting = reviews.drafting(access, scope);
    List<Draft> drafts = drafting.drafts();
    if (drafts.isEmpty()) {
      throw new BadInput("nobody has anything in that scope; there is nothing to ask");
    }
    Evidence evidence = evidence(access);
    Findings.Result findings =
        Findings.of(access, clock, charter.on(asked).expected(), evidence, identities);
    Map<String, String> stored = new LinkedHashMap<>();
    for (Map.Entry<String, String> each : named.entrySet()) {
      stored.put(schemaOrRole(access, each.getKey()), each.getValue());
    }
    List<Line> lines =
        new ReviewLines(
                access, drafting, reviews.ledger(), findings, evidence, clock.instant(), whose)
            .of(drafts, reviewers(access, by, stored, otherwise, everybody), null);
    reviews
        .book()
        .open(
            name,
            asked,
            new ReviewBook.Opened(scope, by.name(), stored, otherwise),
            lines,
            Ledgers.runner(),
            clock.instant());
    out.print(ReviewText.status(reviews.book().read(name).review(), access, null, width()));
    say("next: fiador review sheets " + name);
    return Exit.YES;
  }

  static Reviewers reviewers(
      Access access,
      Reviewers.By by,
      Map<String, String> named,
      String otherwise,
      Identities identities) {
    return new Reviewers(
        access, by, named, otherwise, identities, text -> HistoryText.shown(access, text));
  }

  private static String schemaOrRole(Access access, String written) throws BadInput {
    Lookup.Found schema = new Lookup(access).node(written, 0, false);
    if (schema.ok()) {
      return access.tree().path(schema.id());
    }
    Lookup.Found role = new Lookup(access).principal(written);
    if (!role.ok()) {
      throw new BadInput("--reviewer " + written + ": there is no such schema or role");
    }
    return access.principals().name(role.id());
  }

  private Scope scope(Access access, Whose whose) throws BadInput {
    Lookup lookup = new Lookup(access);
    Set<String> paths = new TreeSet<>();
    for (String schema : schemas) {
      Lookup.Found found = lookup.node(schema, 0, false);
      if (!found.ok()) {
        throw new BadInput(found.problem());
      }
      paths.add(access.tree().path(found.id()));
    }
    Set<String> objects = new TreeSet<>();
    Map<String, List<Labelled>> known = charter.wanted().sight().labels();
    for (String label : labels) {
      if (!known.containsKey(label)) {
        throw new BadInput(
            "the charter has no label " + label + Nearest.hint(label, known.keySet().stream()));
      }
      for (Labelled thing : known.get(label)) {
        Lookup.Found found = lookup.node(thing.name(), 0, true);
        if (found.ok()) {
          objects.add(access.tree().path(found.id()));
        }
      }
    }
    Set<String> given = new TreeSet<>();
    for (String role : roles) {
      given.add(access.principals().name(Asking.principal(access, role)));
    }
    Set<String> people = new TreeSet<>();
    for (String person : persons) {
      Set<String> accounts = whose.accounts(person);
      people.addAll(
          accounts.isEmpty()
              ? Set.of(access.principals().name(Asking.principal(access, person)))
              : accounts);
    }
    return new Scope(paths, objects, given, people);
  }

  private Evidence evidence(Access access) throws Refusal, IOException {
    return usage.isEmpty() ? null : UsageReader.read(access, usage, this::say);
  }

  @Override
  public String[] description() {
    return new String[] {
      "Opens a review: for each person in its scope a line for each role, grant, ownership or power",
      "and each schema, with who is asked about it. Facts are those of the newest survey."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Nobody is asked about their own access. Without any limit the review is about everything.",
      "",
      "Examples:",
      "  fiador review open spring --schema billing --reviewer billing=paulo.matias --else alda.monte",
      "  fiador review open spring --by manager --people people.csv --else alda.monte",
      "  fiador review open personal --label personal --by role --usage server.csv --else alda.monte"
    };
  }
}
