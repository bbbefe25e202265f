package fiador.cli.tidy;

import fiador.across.Atlas;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.PageAddress;
import fiador.cli.shell.Version;
import fiador.estate.Nearest;
import fiador.evidence.Identities;
import fiador.files.WholeFile;
import fiador.files.charter.Charter;
import fiador.findings.Findings;
import fiador.findings.check.Asked;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.findings.check.Severity;
import fiador.grants.Access;
import fiador.grants.Seen;
import fiador.grants.Unread;
import fiador.policies.Sealing;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.exchange.Sarif;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.text.Columns;
import fiador.report.text.FindingText;
import fiador.work.charters.Dialects;
import fiador.work.secrets.SecretDates;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

public final class FindingsCommand extends Reviewing {
  String only;
  Severity failOn = Severity.LOW;
  Severity atLeast = Severity.LOW;
  Path sarif;
  String page;
  boolean list;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    neighbours(options);
    options.optional("FINDING", value -> only = value, "Only this kind, in full.");
    options.option(
        "--fail-on",
        "S",
        Severity.class,
        value -> failOn = value,
        "high, medium or low: exit code 1 only from that on.");
    options.option(
        "--at-least",
        "S",
        Severity.class,
        value -> atLeast = value,
        "high, medium or low: shows only from that on.");
    options.option(
        "--sarif", "FILE", Path.class, value -> sarif = value, "Writes SARIF 2.1.0 there too.");
    PageAddress.option(
        options,
        value -> page = value,
        "Where the page that fiador page wrote is; rows for programs then have a link to its view.");
    options.flag(
        "--list", given -> list = given, "Lists all kinds of finding; nothing is looked for.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "What is wrong with an estate: who has too much, what is redundant, what does not work, and what",
      "mends it. With the name of a finding: all of that kind, with the statements."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when something was found (with --fail-on: something that bad), 2 when nothing was",
      "and something could not be looked at.",
      "Findings are accepted by waivers in the charter; docs/findings.md explains each.",
      "",
      "Examples:",
      "  fiador findings",
      "  fiador findings direct-grant",
      "  fiador findings --from survey.jsonl --charter . --fail-on high --sarif findings.sarif"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (list) {
      list();
      return Exit.YES;
    }
    Asked asked = only == null ? null : asked();
    Charter charter = charter();
    Access access =
        charter == null ? access() : SecretDates.known(access(), charterFolder(), charter);
    Expected expected = expected(charter, access);
    Identities people = identities();
    // whose an account is, and what is guarded here, make one server another's business
    boolean apart = !expected.duties().isEmpty() && !expected.accounts().users().isEmpty();
    boolean guarded = !new Sealing(access, clock).guarded().isEmpty();
    Atlas atlas = people != null || apart || guarded ? atlas(access) : new Atlas(List.of());
    Findings.Result result =
        Findings.of(access, clock, expected, evidence(access), people, atlas).atLeast(atLeast);
    FindingText text =
        new FindingText(
            access,
            width(),
            clock.instant(),
            Dialects.statements(charterFolder(), access),
            PageAddress.checked(page));
    String notLooked = asked == null ? null : whyNot(result, asked);
    if (sarif != null) {
      WholeFile.write(sarif, file -> Sarif.write(file, result, text, Version.number()));
    }
    List<Finding> shown = new ArrayList<>(result.open());
    if (asked != null) {
      shown.addAll(result.waived());
      shown.removeIf(found -> !found.asked().equals(asked));
    }
    if (format == Format.TEXT) {
      out.print(asked == null ? text.text(result) : text.detail(asked, shown, notLooked));
      if (withoutSupposed() != null) {
        Findings.Result now =
            Findings.of(withoutSupposed(), clock, expected, evidence(access), people, atlas)
                .atLeast(atLeast);
        out.print(text.difference(now, result));
      }
    } else {
      if (asked == null) {
        shown.addAll(result.waived());
      }
      try (RowWriter writer = RowWriter.to(out, format, text.fields())) {
        for (Finding found : shown) {
          writer.row(text.row(found));
        }
      }
    }
    boolean bad =
        shown.stream()
            .anyMatch(
                found -> found.waiver() == null && found.asked().severity().compareTo(failOn) <= 0);
    return bad ? Exit.NO : isKnown(access, asked, notLooked) ? Exit.YES : Exit.BAD_INPUT;
  }

  /** Whether "nothing found" says something: all was looked at that could be wrong. */
  private boolean isKnown(Access access, Asked asked, String notLooked) {
    if (notLooked != null) {
      if (format != Format.TEXT) {
        err.println("fiador findings: " + asked.id() + " was not looked at: " + notLooked);
      }
      return false;
    }
    boolean things = asked == null || Findings.looksAtThings(asked);
    String unread = things ? Unread.inWords(access) : "";
    String secrets = asked == null ? access.seen().whyNot(Seen.SECRETS) : null;
    if (!unread.isEmpty()) {
      err.println("fiador findings: not looked into: " + unread);
    }
    if (secrets != null) {
      err.println("fiador findings: weak-secret was not looked at: " + secrets);
    }
    return unread.isEmpty() && secrets == null;
  }

  private static String whyNot(Findings.Result result, Asked asked) {
    return result.notLooked().stream()
        .filter(each -> each.asked().equals(asked))
        .map(Findings.NotLooked::why)
        .findFirst()
        .orElse(null);
  }

  private void list() throws IOException {
    if (format == Format.TEXT) {
      Columns lines = new Columns(width());
      for (Asked asked : Findings.catalogue()) {
        lines.line(asked.id(), asked.severity().text(), asked.question());
      }
      out.print(lines.text());
      return;
    }
    List<String> fields = List.of("finding", "severity", "question", "remedy");
    try (RowWriter writer = RowWriter.to(out, format, fields)) {
      for (Asked asked : Findings.catalogue()) {
        Map<String, String> row = new LinkedHashMap<>();
        row.put("finding", asked.id());
        row.put("severity", asked.severity().text());
        row.put("question", asked.question());
        row.put("remedy", asked.remedy());
        writer.row(row);
      }
    }
  }

  private Asked asked() throws BadInput {
    for (Asked asked : Findings.catalogue()) {
      if (asked.id().equals(only)) {
        return asked;
      }
    }
    throw new BadInput(
        "there is no finding "
            + only
            + Nearest.hint(only, Findings.catalogue().stream().map(Asked::id))
            + "; docs/findings.md lists them");
  }
}
