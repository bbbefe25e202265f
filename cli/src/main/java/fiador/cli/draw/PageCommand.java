package fiador.cli.draw;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.tidy.Reviewing;
import fiador.files.WholeFile;
import fiador.files.charter.Charter;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.page.PageData;
import fiador.report.page.Scope;
import fiador.report.page.Supplement;
import fiador.report.shown.FileLink;
import fiador.report.shown.Shown;
import fiador.selection.Selection;
import java.io.IOException;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Writes a page to explore an estate with, or a part of it, in one file. */
public final class PageCommand extends Reviewing {
  private static final String TOO_LARGE =
      "So large an estate was not looked at for findings: fiador findings does that.";

  private @Nullable Path file;
  private @Nullable String schemas;
  private @Nullable String owner;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.option(
        "--to", "FILE", Path.class, value -> file = value, "The page, such as estate.html.");
    options.option(
        "--schema",
        "NAME,...",
        value -> schemas = value,
        "Only these schemas, and who holds something there. Nothing else is in the file.");
    options.option(
        "--for",
        "OWNER",
        value -> owner = value,
        "Only what is this user's or role's, and who holds something on it.");
  }

  @Override
  protected void formats(Options options) {
    // it is a page
  }

  @Override
  public boolean isPaged() {
    return false;
  }

  @Override
  public String[] description() {
    return new String[] {
      "A page to explore an estate with, in one file: search, people, roles, things, a matrix, a picture, findings.",
      "It needs a browser and nothing else, asks nothing of anybody, and can be sent to somebody."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Its links lead to a view, and can be sent: estate.html#person=ines.duarte",
      "",
      "Examples:",
      "  fiador page --to estate.html",
      "  fiador page --schema billing --to billing.html      for whoever the data of billing belongs to",
      "  fiador page --for marta.vale --to marta.html"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (file == null) {
      throw new BadInput("where the page goes is not said: --to estate.html");
    }
    if (!file.toString().toLowerCase(Locale.ROOT).matches(".*\\.html?")) {
      throw new BadInput("--to " + file + ": a page's name ends in .html");
    }
    Access access = access();
    sayUnread(access);
    BitSet things = things(access);
    if (things.isEmpty()) {
      say("nothing there is " + owner + "'s: no page was written");
      return Exit.NO;
    }
    limit(access, things);
    Scope scope = Scope.of(access, things, said(access), clock);
    String html = PageData.html(access, scope, supplement(access), clock);
    WholeFile.write(file, html);
    out.println(
        String.format(
            Locale.ROOT,
            "the page is %s: %,d things, %,d users and roles",
            FileLink.to(file),
            things.cardinality(),
            scope.people().cardinality()));
    return Exit.YES;
  }

  private Supplement supplement(Access access) throws Refusal, IOException {
    if (access.tree().size() > 2 * Scope.MOST_THINGS) {
      return Supplement.of(List.of(), TOO_LARGE);
    }
    Charter charter = charter();
    Expected expected = expected(charter, access);
    List<Finding> findings =
        Findings.of(access, clock, expected, evidence(access), identities()).open();
    return charter == null
        ? Supplement.of(findings, null)
        : new Supplements(access, charterFolder(), charter, clock, this::note)
            .with(findings, null, surveys());
  }

  private BitSet things(Access access) throws BadInput {
    BitSet found =
        owner == null ? Scope.everything(access) : Scope.ownedBy(access, principal(access, owner));
    if (schemas != null) {
      BitSet inside = new Selection(access).schema(schemas).things();
      if (inside != null) {
        found.and(inside);
      }
    }
    return found;
  }

  private String said(Access access) throws BadInput {
    String part =
        schemas == null ? "" : (schemas.contains(",") ? "the schemas " : "the schema ") + schemas;
    if (owner == null) {
      return part;
    }
    String whose = "what is " + Shown.brief(access).principal(principal(access, owner)) + "'s";
    return part.isEmpty() ? whose : whose + " in " + part;
  }

  private void limit(Access access, BitSet things) throws BadInput {
    boolean whole = schemas == null && owner == null;
    int people = whole ? access.principals().size() : 0;
    if (things.cardinality() > Scope.MOST_THINGS || people > Scope.MOST_PEOPLE) {
      throw new BadInput(
          String.format(
              Locale.ROOT,
              "%,d things%s are too many for one page (%,d of each at most); --schema NAME,... or"
                  + " --for OWNER says which",
              things.cardinality(),
              whole ? String.format(Locale.ROOT, " and %,d users and roles", people) : "",
              Scope.MOST_THINGS));
    }
  }
}
