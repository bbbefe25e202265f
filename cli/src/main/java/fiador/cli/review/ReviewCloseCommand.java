package fiador.cli.review;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.ledger.ReviewBook;
import fiador.files.ledger.ReviewKey;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.text.ChangeText;
import fiador.report.text.Columns;
import fiador.report.text.ReviewText;
import fiador.reviews.Revocations;
import fiador.reviews.Revocations.Broader;
import fiador.work.charters.Scripts;
import fiador.work.reviewing.Closing;
import java.io.IOException;
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
  public int step() throws Refusal, IOException {
    Broader broader = whole ? Broader.WHOLE : smaller ? Broader.SMALLER : Broader.LEAVE;
    Closing closing = Closing.of(reviews, reviews.open(name), broader, clock);
    if (closing.open() + closing.stale() > 0 && !unfinished && !dryRun) {
      throw new BadInput(
          lines(closing.open())
              + " open, "
              + lines(closing.stale())
              + " no longer as asked or new; see fiador review status, or close --unfinished");
    }
    List<String> statements = closing.statements(folder);
    show(closing, statements);
    if (closing.outdated() > 0) {
      out.println(
          "\nnot carried out, because decided on other facts: " + lines(closing.outdated()));
    }
    if (dryRun) {
      say("the review is still open");
    } else {
      close(closing);
    }
    return statements.isEmpty() ? Exit.YES : Exit.NO;
  }

  private void close(Closing closing) throws Refusal, IOException {
    Access access = closing.access();
    if (script != null) {
      Scripts.write(script, folder, access, closing.steps());
    }
    Map<String, String> left = new LinkedHashMap<>();
    for (Revocations.Left each : closing.revocations().left()) {
      left.put(each.line().key(), ReviewText.why(access, each));
    }
    String review = closing.review().name();
    Path file = evidence == null ? folder.resolve(review + ".review.jsonl") : evidence;
    ReviewKey key = ReviewKeyCommand.own();
    ReviewBook.Kept closed = closing.close(reviews, folder, left, file, key, clock);
    out.println();
    out.println(
        key == null
            ? "it is not signed; keep the digest apart, or make a key: fiador review key"
            : "signed with the key " + key.shown());
    out.println(
        "evidence: " + file + ", " + closed.entries().size() + " entries; the last digest is");
    out.println("  " + closed.hash());
  }

  private void show(Closing closing, List<String> statements) {
    Revocations.Result revocations = closing.revocations();
    int open = closing.open();
    int left = revocations.left().size();
    out.println(
        closing.review().name()
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
                      each.line().who(),
                      each.line().through(),
                      ReviewText.why(closing.access(), each)));
      out.print(lines.text());
    }
  }

  @Override
  public String[] description() {
    return new String[] {
      "Closes a review: shows what has to be revoked and who is affected, and writes the evidence.",
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
