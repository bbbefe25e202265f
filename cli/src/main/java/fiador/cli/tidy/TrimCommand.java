package fiador.cli.tidy;

import fiador.changes.steps.Step;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.evidence.Evidence;
import fiador.files.WholeFile;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterPatch;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.repairs.Regroup;
import fiador.repairs.Trim;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.text.RegroupText;
import fiador.report.text.TrimText;
import fiador.work.charters.Dialects;
import fiador.work.charters.Scripts;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

public final class TrimCommand extends Reviewing {
  Path script;
  Path patch;
  boolean regroup;

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--script",
        "FILE",
        Path.class,
        value -> script = value,
        "Writes the statements there, to look at and to run.");
    options.option(
        "--patch",
        "FILE",
        Path.class,
        value -> patch = value,
        "Writes what goes from the charter's lists of roles there, for git apply.");
    options.flag(
        "--regroup",
        given -> regroup = given,
        "Puts what people hold (with --usage: what they used of it) together in as few roles as can be",
        "found, and says how few there must be at least.");
  }

  /** Proposes fewer roles for the same. */
  private int regroup(Access access, Expected expected, Evidence evidence)
      throws Refusal, IOException {
    if (!Regroup.isPossible(access)) {
      throw new BadInput(
          "on this server one role of a user counts at a time, so people cannot be given several"
              + " in place of one; --regroup is for the others");
    }
    if (patch != null) {
      throw new BadInput("--regroup makes new roles and writes no patch; take --script");
    }
    Regroup.Result result = Regroup.of(access, clock, expected, evidence);
    RegroupText text = new RegroupText(access, width(), clock.instant());
    List<String> statements =
        result.isBetter()
            ? Dialects.statements(charterFolder(), access).apply(result.gap().plan().steps())
            : List.of();
    if (format == Format.TEXT) {
      out.print(text.text(result, statements.size()));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, RegroupText.FIELDS)) {
        for (Regroup.Group group : result.groups()) {
          writer.row(text.row(group));
        }
      }
    }
    if (script != null && !result.exact()) {
      throw new BadInput("no script is written: somebody would gain, or lose what they need");
    } else if (script != null) {
      List<Step> steps = result.isBetter() ? result.gap().plan().steps() : List.of();
      Scripts.write(script, charterFolder(), access, steps);
    }
    return statements.isEmpty() ? Exit.YES : Exit.NO;
  }

  private void patch(Access access, Charter charter, Trim.Result result)
      throws BadInput, IOException {
    if (charter == null) {
      throw new BadInput("--patch needs a charter to change; say --charter DIR");
    }
    CharterPatch.Result edits =
        CharterPatch.of(
            charterFolder(),
            charter.on(access.about().server()),
            access.rules(),
            result.gap().plan().steps());
    WholeFile.write(patch, edits.text());
    say(
        "patch: "
            + edits.made()
            + " steps as edits of the charter, "
            + edits.left()
            + " that come from a pattern or an \"every\", or stand nowhere in the charter, are left to you");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Which roles and grants can go without anybody losing what they used; without --usage: without",
      "anybody losing anything."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "What removes the most risk comes first. Nothing is run. Exit code 1 when something can go.",
      "Logs that are understood, and our own format: docs/usage.md.",
      "",
      "Examples:",
      "  fiador trim",
      "  fiador trim --usage server.csv --usage server.csv.1.gz --script trim.sql",
      "  fiador trim --usage server.csv --patch trim.patch && git apply trim.patch",
      "  fiador trim --regroup --script regroup.sql"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Access access = access();
    Charter charter = charter();
    Expected expected = expected(charter, access);
    Evidence evidence = evidence(access);
    if (regroup) {
      return regroup(access, expected, evidence);
    }
    Trim.Result result = Trim.of(access, clock, expected, evidence);
    var sql = Dialects.statements(charterFolder(), access);
    TrimText text = new TrimText(access, width(), clock.instant(), sql);
    if (format == Format.TEXT) {
      out.print(text.text(result, evidence));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, TrimText.FIELDS)) {
        for (Trim.Cut cut : result.cuts()) {
          writer.row(text.row(cut));
        }
      }
    }
    if (script != null) {
      Scripts.write(script, charterFolder(), access, result.gap().plan().steps());
    }
    if (patch != null) {
      patch(access, charter, result);
    }
    return result.cuts().isEmpty() ? Exit.YES : Exit.NO;
  }
}
