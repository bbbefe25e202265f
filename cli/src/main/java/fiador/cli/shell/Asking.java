package fiador.cli.shell;

import fiador.changes.wanted.OnPaper;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.files.ledger.Ledger;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Unread;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.report.rows.Format;
import fiador.report.shown.Shown;
import fiador.servers.jdbc.ServerException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;

/** Commands that ask something of an estate. */
public abstract class Asking extends Common {
  public String from;
  protected String at;
  public Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--from",
        "X",
        value -> from = value,
        "What to answer from: a survey file; a charter's folder (its newest survey, else the charter",
        "itself); or a server of the charter here, surveyed afresh. Else the charter's folder here.");
    options.option(
        "--at",
        "WHEN",
        value -> at = value,
        "Answers for a day that is past, from the ledger: 2026-03-03 (the end of it) or",
        "2026-03-03T14:00, in UTC.");
    options.format(value -> format = value, "text, json, jsonl, csv or markdown.");
  }

  /** Reads what is to be asked. */
  public Access access()
      throws BadInput, SurveyException, CharterException, ServerException, IOException {
    if (at != null) {
      return then();
    }
    if (from == null) {
      return newestSurvey(Path.of(""));
    }
    Path path = Path.of(from);
    if (Files.isRegularFile(path)) {
      return SurveyReader.read(path);
    }
    if (Files.isDirectory(path)) {
      return newestSurvey(path);
    }
    if (Files.isRegularFile(Path.of("").resolve(CharterReader.ROOT))) {
      Charter charter = CharterReader.read(Path.of(""), System::getenv);
      if (charter.servers().containsKey(from)) {
        return Surveys.take(charter, charter.servers().get(from), clock.instant(), this::note);
      }
    }
    throw new BadInput(
        "--from "
            + from
            + " is no survey file, no charter's folder and no server of the charter here");
  }

  /** The survey that was the newest then; the clock is set to then as well. */
  private Access then() throws BadInput, SurveyException, CharterException, IOException {
    boolean elsewhere = from != null && Files.isDirectory(Path.of(from));
    Path folder = Path.of(elsewhere ? from : "");
    if (from != null && !elsewhere && Files.isRegularFile(Path.of(from))) {
      throw new BadInput(
          "--at asks the ledger of a charter, and "
              + from
              + " is a survey file; fiador history --take-in puts it there");
    }
    Charter charter = Charters.read(folder);
    String server = Charters.server(charter, elsewhere ? null : from).name();
    Instant end = Ledgers.end(at);
    try (Ledger ledger = Ledgers.existing(folder, charter)) {
      List<Ledger.Survey> all = ledger.surveys(server);
      List<Ledger.Survey> older = all.stream().filter(each -> !each.taken().isAfter(end)).toList();
      if (older.isEmpty()) {
        throw new BadInput(
            "the ledger knows nothing of "
                + server
                + " at "
                + at
                + (all.isEmpty() ? "" : "; it begins at " + Shown.time(all.get(0).taken())));
      }
      clock = Clock.fixed(end, ZoneOffset.UTC);
      Ledger.Survey survey = older.get(older.size() - 1);
      say(certainty(all, older));
      return ledger.read(survey);
    }
  }

  /** How sure it is that the survey before was still true: by the one after. */
  private String certainty(List<Ledger.Survey> all, List<Ledger.Survey> older) {
    Ledger.Survey before = older.get(older.size() - 1);
    String said = "note: the last survey until then is of " + Shown.time(before.taken());
    if (older.size() == all.size()) {
      return said + "; there is none after it";
    }
    Ledger.Survey next = all.get(older.size());
    String when = Shown.time(next.taken());
    return next.state().equals(before.state())
        ? said + "; the next, of " + when + ", found the same"
        : said + "; the next, of " + when + ", found something else: fiador history";
  }

  private Access newestSurvey(Path folder)
      throws BadInput, SurveyException, CharterException, IOException {
    Path only = Surveys.only(folder);
    if (only != null) {
      return SurveyReader.read(only);
    }
    Charter charter = Charters.read(folder);
    Charter.ServerEntry server = Charters.server(charter, null);
    Path file = Surveys.file(folder, server.name());
    if (!Files.isRegularFile(file)) {
      return onPaper(charter, server);
    }
    return SurveyReader.read(file);
  }

  private Access onPaper(Charter charter, Charter.ServerEntry server) {
    say("note: no survey of " + server.name() + " yet, so only what the charter names is known");
    String database = server.url().replaceFirst("\\?.*$", "").replaceFirst("^.*[/:]", "");
    HouseRules rules = KnownHouses.newest(server.kind());
    boolean hasDatabases = rules.privilegesOn(NodeKind.DATABASE) != 0;
    return OnPaper.of(charter.wanted(), server.name(), rules, hasDatabases ? database : null);
  }

  /** What an answer cannot know of. */
  public void sayUnread(Access access) {
    String unread = Unread.inWords(access);
    if (!unread.isEmpty()) {
      say("note: the survey did not look into " + unread + "; what is held there is not known");
    }
  }

  /** The principal of that name. */
  public static int principal(Access access, String name) throws BadInput {
    Lookup.Found found = new Lookup(access).principal(name);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    if (found.id() == Principals.PUBLIC) {
      throw new BadInput("PUBLIC is everybody; ask for a user or a role");
    }
    return found.id();
  }
}
