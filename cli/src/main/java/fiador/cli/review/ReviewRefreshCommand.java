package fiador.cli.review;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.People;
import fiador.evidence.Identities;
import fiador.files.ledger.ReviewBook;
import fiador.findings.Findings;
import fiador.grants.Access;
import fiador.refusal.Refusal;
import fiador.reviews.Drafting;
import fiador.reviews.Freshness;
import fiador.reviews.Line;
import fiador.reviews.Review;
import fiador.reviews.Reviewers;
import fiador.reviews.Whose;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.util.List;

public final class ReviewRefreshCommand extends ReviewStep {
  String name;
  People people = new People();

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("NAME", value -> name = value, "Which review.");
    people.options(options);
  }

  @Override
  public int step() throws Refusal, IOException {
    ReviewBook.Kept kept = reviews.open(name);
    Review review = kept.review();
    Freshness today = reviews.today(kept);
    if (today.isFresh()) {
      out.println("everything is as it was asked; nothing to do");
      return Exit.YES;
    }
    Access access = reviews.newest(review.server());
    ReviewBook.Opened opened = kept.opened();
    Drafting drafting = reviews.drafting(access, opened.scope());
    Identities everybody = everybody(people.read());
    Reviewers reviewers =
        ReviewOpenCommand.reviewers(
            access,
            Reviewers.By.valueOf(opened.by()),
            opened.named(),
            opened.otherwise(),
            everybody);
    Findings.Result findings =
        Findings.of(access, clock, charter.on(review.server()).expected(), null, null);
    List<Line> lines =
        new ReviewLines(
                access,
                drafting,
                reviews.ledger(),
                findings,
                null,
                clock.instant(),
                new Whose(access, everybody))
            .of(drafting.drafts(), reviewers, review);
    reviews.book().refresh(review.name(), lines, Ledgers.runner(), clock.instant());
    out.println(
        lines(today.changed().size())
            + " asked anew because they give something else, "
            + lines(today.added().size())
            + " new, "
            + lines(today.gone().size())
            + " gone");
    return Exit.YES;
  }

  @Override
  public String[] description() {
    return new String[] {
      "Asks again with the facts of the newest survey: lines that are as they were keep their decisions,",
      "the others are asked anew. New sheets have to go out for those."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {"", "Examples:", "  fiador survey && fiador review refresh spring"};
  }
}
