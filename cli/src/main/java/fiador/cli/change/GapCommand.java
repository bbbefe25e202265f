package fiador.cli.change;

import fiador.changes.Gap;
import fiador.changes.ordering.Transactions;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.SightEffects;
import fiador.changes.steps.Step;
import fiador.cli.shell.Change;
import fiador.cli.shell.Compared;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.refusal.Refusal;
import fiador.report.rows.ChangeRows;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.FileLink;
import fiador.report.shown.Shown;
import fiador.report.text.ChangeText;
import fiador.report.text.Headline;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import fiador.work.charters.Charters;
import fiador.work.charters.Ledgers;
import fiador.work.charters.Scripts;
import fiador.work.charters.Surveys;
import fiador.work.settling.Approved;
import fiador.work.settling.Task;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

public final class GapCommand extends Change {
  private static final int STATEMENTS = 30;
  private static final List<String> STATEMENT_FIELDS = List.of("number", "database", "statement");

  String from;
  Path script;
  Path save;
  Path undoScript;
  boolean statements;
  Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--from",
        "X",
        value -> from = value,
        "A survey file, or a server of the charter, surveyed afresh. Else the newest survey, else",
        "the server.");
    options.option(
        "--script",
        "FILE",
        Path.class,
        value -> script = value,
        "Writes the statements for the server's own client, for somebody else to run.");
    options.option(
        "--undo-script",
        "FILE",
        Path.class,
        value -> undoScript = value,
        "Writes the statements that take them back.");
    options.option(
        "--save",
        "FILE",
        Path.class,
        value -> save = value,
        "Writes it down to be approved: statements, effects, digest. fiador settle --saved carries out",
        "exactly that.");
    options.flag(
        "--statements",
        given -> statements = given,
        "Shows all statements; as json, jsonl, csv or markdown one in a row, instead of the effect.");
    options.format(
        value -> format = value, "text; or the effect on people as json, jsonl, csv or markdown.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "What a server lacks and has too much by the charter: the statements, and who gains and loses what.",
      "Runs nothing. Exit code 1 when there is a gap."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Only what the charter lists under \"governs\" is ever taken away.",
      "",
      "Examples:",
      "  fiador gap                            the newest survey against the charter here",
      "  fiador gap --from waterworks          survey that server afresh",
      "  fiador gap --script change.sql --undo-script back.sql",
      "  fiador gap --save change.json         to be approved, then fiador settle --saved"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Charter charter = Charters.read(folder);
    Compared compared = new Compared(charter, folder, from, server);
    Charter.ServerEntry entry = compared.entry();
    Server kind = Surveys.kind(entry);
    Access before = compared.before(surveys(), clock, this::note);
    Task task = new Task(folder, charter, entry, drop, clock);
    Gap gap = task.gap(before);
    List<Step> steps = gap.plan().steps();
    if (script != null) {
      Scripts.write(script, folder, before, steps);
    }
    if (undoScript != null) {
      Scripts.write(undoScript, folder, before, inverse(steps));
    }
    if (save != null) {
      save(task, gap);
    }
    if (format == Format.TEXT) {
      print(gap, entry, kind);
    } else if (statements) {
      rows(kind, steps);
    } else {
      ChangeRows rows = new ChangeRows(gap);
      try (RowWriter writer = RowWriter.to(out, format, ChangeRows.FIELDS)) {
        for (PeopleEffects.Change change : gap.effects()) {
          writer.row(rows.row(change));
        }
        for (SightEffects.Change change : gap.sights()) {
          writer.row(rows.row(change));
        }
      }
    }
    sayNotes(gap);
    return gap.plan().isEmpty() ? Exit.YES : Exit.NO;
  }

  private void save(Task task, Gap gap) throws Refusal, IOException {
    Approved written = new Approved(Approved.saved(task, gap, Ledgers.runner()), "");
    written.gap().write(save);
    say("saved to " + FileLink.to(save) + ": gap " + written.shortDigest());
  }

  private void print(Gap gap, Charter.ServerEntry entry, Server kind) {
    String origin = new Shown(gap.before(), true).origin(clock.instant());
    List<Step> steps = gap.plan().steps();
    if (steps.isEmpty()) {
      String answer = "no gap: " + entry.name() + " is as the charter says";
      out.println(Headline.of(answer, origin, width()));
      return;
    }
    ChangeText effect = new ChangeText(gap, width());
    List<String> statements = kind.dialect().shown(steps);
    String answer =
        "gap of "
            + entry.name()
            + ": "
            + (statements.size() == 1 ? "1 statement" : statements.size() + " statements")
            + "; "
            + effect.summary();
    out.println(Headline.of(answer, origin, width()));
    if (!gap.effects().isEmpty()) {
      out.println();
      out.println("effect on people");
      out.print(effect.text());
    }
    if (!gap.sights().isEmpty()) {
      out.println();
      out.println("what people see");
      out.print(effect.seen());
    }
    String sights = effect.sights();
    if (!sights.isEmpty()) {
      out.println();
      out.println("rows and columns");
      out.print(sights);
    }
    out.println();
    out.println("statements");
    List<Dialect.Batch> batches = kind.dialect().batches(steps);
    int most = this.statements ? batches.size() : STATEMENTS;
    // as they are sent: a line break may stand in a text
    batches.stream()
        .limit(most)
        .flatMap(batch -> batch.statements().stream())
        .forEach(sql -> out.println("  " + sql + ";"));
    if (batches.size() > most) {
      out.println("  and " + (batches.size() - most) + " more; --statements shows them all");
    }
  }

  private void rows(Server kind, List<Step> steps) throws IOException {
    try (RowWriter writer = RowWriter.to(out, format, STATEMENT_FIELDS)) {
      int number = 0;
      for (Transactions.Part part : Transactions.of(steps)) {
        for (Dialect.Batch batch : kind.dialect().batches(part.steps())) {
          for (String sql : batch.statements()) {
            Map<String, Object> row = new LinkedHashMap<>();
            row.put("number", ++number);
            row.put("database", part.database());
            row.put("statement", sql);
            writer.row(row);
          }
        }
      }
    }
  }
}
