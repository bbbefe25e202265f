package fiador.cli.review;

import fiador.changes.steps.Step;
import fiador.cli.shell.BadInput;
import fiador.cli.shell.Change;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Ledgers;
import fiador.cli.shell.Options;
import fiador.cli.shell.Scripts;
import fiador.files.WholeFile;
import fiador.files.charter.CharterException;
import fiador.files.ledger.ReviewBook;
import fiador.files.ledger.ReviewKey;
import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.report.text.ChangeText;
import fiador.report.text.Columns;
import fiador.report.text.ReviewText;
import fiador.reviews.Drafting;
import fiador.reviews.Freshness;
import fiador.reviews.Line;
import fiador.reviews.Review;
import fiador.reviews.Revocations;
import fiador.reviews.Revocations.Broader;
import fiador.reviews.Scope;
import fiador.servers.Servers;
import fiador.servers.jdbc.ServerException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

public final class ReviewCloseCommand extends ReviewStep {
  String name;
  Path script;
  Path evidence;
  boolean unfinished;
  boolean smaller;
  boolean whole;
  boolean dryRun;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("NAME", value -> name = value, "Which review.");
    options.option(
        "--script", "FILE", Path.class, value -> script = value, "Writes the statements there.");
    options.option(
        "--evidence",
        "FILE",
        Path.class,
        value -> evidence = value,
        "Where the evidence goes; else NAME.review.jsonl in the charter's folder.");
    options.flag(
        "--unfinished",
        given -> unfinished = given,
        "Closes it although lines are open or no longer as asked; those are left alone.");
    options.flag(
        "--smaller",
        given -> smaller = given,
        "Where a role gives more than was revoked: gives the roles in it that give the rest.");
    options.flag(
        "--whole",
        given -> whole = given,
        "Takes a role as a whole, even where it gives more than was revoked.");
    options.flag("--dry-run", given -> dryRun = given, "Shows it and leaves the review open.");
  }

  @Override
  public int step()
      throws BadInput, SurveyException, CharterException, ServerException, IOException {
    ReviewBook.Kept kept = open(name);
    Review review = kept.review();
    Freshness today = today(kept);
    int open = review.lines().size() - review.decided();
    int stale = today.changed().size() + today.added().size();
    if (open + stale > 0 && !unfinished && !dryRun) {
      throw new BadInput(
          lines(open)
              + " open, "
              + lines(stale)
              + " no longer as asked or new; see fiador review status, or close --unfinished");
    }
    Access access = newest(review.server());
    // what was decided on other facts is not carried out
    Review sound = new Review(review.name(), review.server(), review.opened(), review.lines());
    for (Line line : review.lines()) {
      if (review.decision(line.key()) != null && !today.changed().contains(line)) {
        sound.decide(line.key(), review.decision(line.key()));
      }
    }
    Drafting drafting = new Drafting(access, Scope.ALL, charter.expected().ours());
    Broader broader = whole ? Broader.WHOLE : smaller ? Broader.SMALLER : Broader.LEAVE;
    Revocations.Result revocations = Revocations.of(sound, access, drafting, broader, clock);
    List<Step> steps = revocations.gap().plan().steps();
    List<String> statements =
        Change.statements(Servers.named(access.about().kind()).orElseThrow(), steps);
    show(access, review, revocations, statements, open);
    long outdated =
        today.changed().stream().filter(line -> review.decision(line.key()) != null).count();
    if (outdated > 0) {
      out.println("\nnot carried out, because decided on other facts: " + lines((int) outdated));
    }
    if (dryRun) {
      say("the review is still open");
      return statements.isEmpty() ? Exit.YES : Exit.NO;
    }
    if (script != null) {
      Scripts.write(script, access, steps);
    }
    Map<String, String> left = new LinkedHashMap<>();
    revocations.left().forEach(each -> left.put(each.line().key(), ReviewText.why(access, each)));
    book.close(review.name(), statements, left, Ledgers.runner(), clock.instant());
    ReviewBook.Kept closed = book.read(review.name());
    Path file = evidence == null ? folder.resolve(review.name() + ".review.jsonl") : evidence;
    ReviewKey key = ReviewKeyCommand.own();
    String signature = key == null ? "" : key.signed(review.name(), closed.hash()) + "\n";
    String text = String.join("\n", closed.entries()) + "\n" + signature;
    WholeFile.write(file, to -> to.write(text.getBytes(StandardCharsets.UTF_8)));
    out.println();
    out.println(
        key == null
            ? "it is not signed; keep the digest apart, or make a key: fiador review key"
            : "signed with the key " + key.shown());
    out.println(
        "evidence: " + file + ", " + closed.entries().size() + " entries; the last digest is");
    out.println("  " + closed.hash());
    return statements.isEmpty() ? Exit.YES : Exit.NO;
  }

  private void show(
      Access access,
      Review review,
      Revocations.Result revocations,
      List<String> statements,
      int open) {
    int left = revocations.left().size();
    out.println(
        review.name()
            + ": "
            + (statements.isEmpty()
                ? "nothing has to be run"
                : statements.size() == 1
                    ? "1 statement carries the revocations out"
                    : statements.size() + " statements carry the revocations out")
            + (left == 0 ? "" : ", " + left + (left == 1 ? " is" : " are") + " left to you")
            + (open == 0 ? "" : ", " + lines(open) + " open"));
    if (!statements.isEmpty()) {
      out.println();
      statements.forEach(sql -> out.println("  " + sql + ";"));
      String effects = new ChangeText(revocations.gap(), width()).text();
      out.print(effects.isEmpty() ? "" : "\neffect\n" + effects);
    }
    if (left > 0) {
      out.println("\nleft to you");
      Columns lines = new Columns(width());
      revocations
          .left()
          .forEach(
              each ->
                  lines.line(
                      each.line().key(),
                      each.line().person(),
                      each.line().through(),
                      ReviewText.why(access, each)));
      out.print(lines.text());
    }
  }

  @Override
  public String[] description() {
    return new String[] {
      "Closes a review: shows what has to be revoked and whom that touches, and writes the evidence.",
      "Nothing is run: --script has the statements. Exit code 1 when something has to be revoked."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "The evidence is a file of entries each ending in a digest over all before it; keep the last",
      "digest apart from the file. fiador review verify checks it.",
      "",
      "Examples:",
      "  fiador review close spring --script spring.sql",
      "  fiador review close spring --dry-run"
    };
  }
}
