package fiador.cli.ask;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.estate.Nearest;
import fiador.estate.Privilege;
import fiador.files.charter.Charter;
import fiador.files.ledger.ChangeBook;
import fiador.files.ledger.Ledger;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.history.FactDifference;
import fiador.history.FactDifference.Fact;
import fiador.history.HoldingDifference;
import fiador.history.HoldingDifference.Turn;
import fiador.history.Touched;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.Headline;
import fiador.report.text.HistoryText;
import fiador.work.charters.Charters;
import fiador.work.charters.Ledgers;
import fiador.work.secrets.SecretChange;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

public final class HistoryCommand extends Common {
  String user;
  String privilege;
  String object;
  String on;
  Path folder = Path.of("");
  Path ledgerFile;
  String server;
  String since;
  String until;
  List<Path> takenIn = List.of();
  Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("USER", value -> user = value, "A user, or a role.");
    options.optional("PRIVILEGE", value -> privilege = value, "Such as select.");
    options.optional("OBJECT[.COLUMN]", value -> object = value, "What the privilege is on.");
    options.option(
        "--on", "OBJECT", value -> on = value, "What everybody gained and lost on this.");
    options.charter(value -> folder = value);
    options.option(
        "--ledger",
        "FILE",
        Path.class,
        value -> ledgerFile = value,
        "This ledger, without a charter.");
    options.option(
        "--server", "NAME", value -> server = value, "Which server, where the ledger has several.");
    options.option("--since", "WHEN", value -> since = value, "Changes from then on, in UTC.");
    options.option("--until", "WHEN", value -> until = value, "Changes until then.");
    options.list(
        "--take-in",
        "SURVEY",
        Path.class,
        value -> takenIn = value,
        "Records an older survey file too; can be given several times.");
    options.format(value -> format = value, "text, json, jsonl, csv or markdown.");
  }

  private Ledger ledger;
  private List<Ledger.Survey> surveys;
  private Turns turns;

  @Override
  public String[] description() {
    return new String[] {
      "What changed on a server and when, as surveys found it; for a user: what they gained and lost;",
      "for a user, a privilege and an object: since when, until when, through what."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Every survey and settle of a charter's server is recorded in its ledger. What somebody held on a",
      "day: fiador holdings, holders or trace with --at.",
      "",
      "Examples:",
      "  fiador history",
      "  fiador history ines.duarte --since 2026-01-01",
      "  fiador history ines.duarte select billing.customers",
      "  fiador history --on billing.customers",
      "  fiador holders billing.customers --at 2026-03-03",
      "  fiador history --take-in backup/waterworks-2026-02.survey.jsonl.gz"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    boolean pair = privilege != null;
    if (pair && object == null || on != null && user != null) {
      throw new BadInput("give a user, or a user with a privilege and an object, or --on OBJECT");
    }
    Instant from = since == null ? Instant.MIN : Ledgers.begin(since);
    Instant to = until == null ? Instant.MAX : Ledgers.end(until);
    try (Ledger opened = opened()) {
      ledger = opened.ready(surveys());
      for (Path file : takenIn) {
        Access access = SurveyReader.read(file);
        boolean fresh = ledger.record(access);
        String taken = Shown.time(access.about().taken());
        say(file + ": " + access.about().server() + " of " + taken + (fresh ? "" : ", known"));
      }
      server = server();
      surveys = ledger.surveys(server);
      turns = Turns.of(ledger, server, from, to);
      if (pair) {
        return periods();
      } else if (user != null || on != null) {
        return people();
      }
      int code = facts();
      secrets(from, to);
      return code;
    }
  }

  /** Whose secrets were set, which no survey of most servers shows. */
  private void secrets(Instant from, Instant to) throws IOException {
    List<ChangeBook.Change> set =
        ledger.changes().of(server).stream()
            .filter(change -> change.what().equals(SecretChange.WHAT) && change.ended() != null)
            .filter(change -> !change.ended().isBefore(from) && !change.ended().isAfter(to))
            .toList();
    for (ChangeBook.Change change : format == Format.TEXT ? set : List.<ChangeBook.Change>of()) {
      out.println(
          "\n  " + Shown.time(change.ended()) + "   " + change.what() + " by " + change.by());
      change.statements().forEach(statement -> out.println("    " + statement));
    }
  }

  private Ledger opened() throws Refusal, IOException {
    if (ledgerFile != null) {
      if (takenIn.isEmpty() && !Files.exists(ledgerFile)) {
        throw new BadInput("there is no ledger " + ledgerFile);
      }
      return Ledger.open(ledgerFile);
    }
    Charter charter = Charters.read(folder);
    if (server == null && charter.servers().size() == 1) {
      server = charter.servers().keySet().iterator().next();
    }
    if (takenIn.isEmpty()) {
      return Ledgers.existing(folder, charter);
    }
    Ledger kept = Ledgers.open(folder, charter);
    if (kept == null) {
      throw new BadInput("the charter keeps no ledger: it says ledger: none");
    }
    return kept;
  }

  private String server() throws BadInput, IOException {
    List<String> known = ledger.servers();
    if (known.isEmpty()) {
      throw new BadInput("the ledger is empty; fiador survey writes the first line");
    } else if (server == null && known.size() > 1) {
      throw new BadInput("the ledger has several servers; --server " + String.join(" or ", known));
    } else if (server != null && !known.contains(server)) {
      throw new BadInput(
          "the ledger has nothing of "
              + server
              + Nearest.hint(server, known.stream())
              + "; it has "
              + String.join(", ", known));
    }
    return server == null ? known.get(0) : server;
  }

  private String watched() {
    return surveys.size() == 1
        ? "1 survey, of " + Shown.time(surveys.get(0).taken())
        : surveys.size()
            + " surveys from "
            + Shown.time(surveys.get(0).taken()).replace(" UTC", "")
            + " to "
            + Shown.time(surveys.get(surveys.size() - 1).taken());
  }

  private void headline(String answer) {
    out.println(Headline.of(answer, watched(), width()));
  }

  private static String times(int count) {
    return count == 0
        ? "did not change"
        : count == 1 ? "changed once" : "changed " + count + " times";
  }

  private int facts() throws SurveyException, IOException {
    long count = turns.changes();
    if (format != Format.TEXT) {
      try (RowWriter writer = RowWriter.to(out, format, HistoryText.FACT_FIELDS)) {
        turns.each(
            (earlier, later, turn) -> {
              HistoryText text = new HistoryText(earlier, later, Turns.moment(turn), width());
              for (Fact fact : FactDifference.between(earlier, later)) {
                writer.row(text.row(fact));
              }
            });
      }
      return Exit.YES;
    }
    headline(server + " " + times((int) count));
    turns.each(
        (earlier, later, turn) -> {
          HistoryText text = new HistoryText(earlier, later, Turns.moment(turn), width());
          out.print("\n" + text.facts(FactDifference.between(earlier, later)));
        });
    return Exit.YES;
  }

  private static int node(Access access, String path) throws BadInput {
    Lookup.Found found = new Lookup(access).node(path, 0, false);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    return found.id();
  }

  /** The node of exactly that path, or -1. */
  private static int at(Access access, String path) {
    Lookup.Found found = new Lookup(access).node(path, 0, false);
    return found.ok() && access.tree().path(found.id()).equals(path) ? found.id() : -1;
  }

  private int people() throws Refusal, IOException {
    String name =
        user == null
            ? turns.found(Touched::things, access -> access.tree().path(node(access, on)))
            : turns.person(user);
    List<String> said = new ArrayList<>();
    List<Map<String, Object>> rows = new ArrayList<>();
    String[] shown = {name};
    Turns theirs = user == null ? turns : turns.concerning(name, false);
    theirs.each(
        (earlier, later, turn) -> {
          HoldingDifference difference = new HoldingDifference(earlier, later);
          int was = earlier.principals().named(name);
          int is = later.principals().named(name);
          List<Turn> found =
              user == null
                  ? difference.onNode(at(earlier, name), at(later, name))
                  : difference.ofPrincipal(was, is, theirs.touched(turn).tables());
          HistoryText text = new HistoryText(earlier, later, Turns.moment(turn), width());
          if (found.isEmpty()) {
            return;
          } else if (format == Format.TEXT) {
            said.add(text.turns(found, user == null));
          } else {
            found.forEach(each -> rows.add(text.row(each)));
          }
          shown[0] = HistoryText.shown(later, name);
        });
    if (format != Format.TEXT) {
      try (RowWriter writer = RowWriter.to(out, format, HistoryText.TURN_FIELDS)) {
        for (Map<String, Object> row : rows) {
          writer.row(row);
        }
      }
      return Exit.YES;
    }
    String what = user == null ? "what people hold on " + shown[0] : "what " + shown[0] + " holds";
    headline(what + " " + times(said.size()));
    said.forEach(text -> out.print("\n" + text));
    return Exit.YES;
  }

  private int periods() throws Refusal, IOException {
    Privilege wanted = Privilege.named(privilege);
    if (wanted == null) {
      throw new BadInput(
          "there is no privilege "
              + privilege
              + Nearest.hint(privilege, Arrays.stream(Privilege.values()).map(Privilege::text)));
    }
    String name = turns.person(user);
    turns.found(
        Touched::things,
        access ->
            new Lookup(access).node(object, wanted.bit(), true).ok() ? 0 : node(access, object));
    Periods periods = new Periods(name, wanted, object);
    turns
        .concerning(name, true)
        .eachState((state, last, moment) -> periods.add(state, last, moment.by()));
    if (format == Format.TEXT) {
      headline(user + ", " + privilege + " on " + object + ": " + periods.answer());
      out.println();
      out.print(periods.text(width()));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, Periods.FIELDS)) {
        for (Map<String, Object> row : periods.rows()) {
          writer.row(row);
        }
      }
    }
    return periods.isHeld() ? Exit.YES : Exit.NO;
  }
}
