package fiador.cli.sweep;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.People;
import fiador.evidence.Identities;
import fiador.files.labels.LabelList;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import fiador.work.sweeping.LabelRule;
import fiador.work.sweeping.Order;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Works out many surveys into tables. */
public final class SweepCommand extends Sweeping {
  private static final List<String> FIELDS = List.of("server", "file", "failed");

  private final People people = new People();
  String surveys;
  String into;
  Path labels;
  boolean again;
  Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter(
        "SURVEYS",
        value -> surveys = value,
        "The folder of the surveys, those in folders below it too; or its address (file, hdfs, s3a).");
    options.required(
        "--into", "SWEEP", value -> into = value, "Where the tables are kept; or its address.");
    people.options(options);
    options.option(
        "--labels",
        "FILE",
        Path.class,
        value -> labels = value,
        "What carries a label: CSV with the columns label, server, object; names may have * and ?.");
    options.flag(
        "--again",
        given -> again = given,
        "Works out all of them; else only those whose surveys changed.");
    options.format(value -> format = value, "text; or json, jsonl, csv, markdown: what failed.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Works out hundreds or thousands of surveys into Parquet tables, and asks them: who, person, changed."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when a survey could not be used; the others are worked out all the same.",
      "The tables, for any engine that reads Parquet: docs/sweep.md.",
      "",
      "Examples:",
      "  fiador sweep surveys --into swept --people people.csv --labels labels.csv",
      "  fiador sweep who swept --label secret",
      "  fiador sweep person swept ines.duarte",
      "  fiador sweep changed swept --since 2026-11-01"
    };
  }

  @Override
  String name() {
    return "sweep";
  }

  @Override
  int run(Sweeps engine) throws Refusal, IOException {
    Identities known = people.read();
    List<LabelRule> rules =
        labels == null
            ? List.of()
            : LabelList.read(labels).stream()
                .map(line -> new LabelRule(line.label(), line.server(), line.object()))
                .toList();
    Outcome outcome =
        engine.sweep(
            new Order(surveys, into, known, rules, cores, again, clock.instant()), this::say);
    if (format == Format.TEXT) {
      out.print(text(outcome));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, FIELDS)) {
        for (Outcome.Failed failed : outcome.failed()) {
          Map<String, Object> row = new LinkedHashMap<>();
          row.put("server", failed.server());
          row.put("file", failed.file());
          row.put("failed", failed.why());
          writer.row(row);
        }
      }
    }
    return outcome.failed().isEmpty() ? Exit.YES : Exit.NO;
  }

  private String text(Outcome outcome) {
    StringBuilder text = new StringBuilder();
    String answer =
        Counted.of(outcome.worked(), "server")
            + " worked out, "
            + outcome.kept()
            + " as before"
            + (outcome.gone().isEmpty() ? "" : ", " + outcome.gone().size() + " gone")
            + (outcome.failed().isEmpty() ? "" : ", " + outcome.failed().size() + " failed");
    text.append(Tone.STRONG.of(answer)).append('\n');
    Columns lines = new Columns(width());
    if (outcome.worked() > 0) {
      String of =
          Counted.of(outcome.accounts(), "user")
              + ", "
              + Counted.of(outcome.holdings(), "holding")
              + ", "
              + Counted.of(outcome.findings(), "finding");
      lines.line("worked out", of);
    }
    outcome.gone().forEach(server -> lines.line("gone", server));
    outcome
        .failed()
        .forEach(
            failed -> lines.line(Tone.BAD.of("failed"), failed.server() + ": " + failed.why()));
    return text.append(lines.text()).toString();
  }
}
