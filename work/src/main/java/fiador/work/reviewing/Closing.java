package fiador.work.reviewing;

import fiador.changes.steps.Step;
import fiador.files.WholeFile;
import fiador.files.ledger.ReviewBook;
import fiador.files.ledger.ReviewKey;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.reviews.Freshness;
import fiador.reviews.Line;
import fiador.reviews.Review;
import fiador.reviews.Revocations;
import fiador.reviews.Revocations.Broader;
import fiador.reviews.Scope;
import fiador.work.charters.Dialects;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What closing a review comes to. Nothing is carried out on a server: there are statements for
 * that.
 *
 * @param review what was decided
 * @param access the newest survey of its server
 * @param today whether the facts are still so
 * @param revocations what has to be taken, and what is left to somebody
 */
public record Closing(
    Review review, Access access, Freshness today, Revocations.Result revocations) {

  /**
   * Works it out. What was decided on other facts is not carried out. Cost: the lines, and the
   * effects of what is revoked.
   *
   * @param broader what to do where a role gives more than was revoked
   */
  public static Closing of(Reviews reviews, ReviewBook.Kept kept, Broader broader, Clock clock)
      throws Refusal, IOException {
    Review review = kept.review();
    Freshness today = reviews.today(kept);
    Access access = reviews.newest(review.server());
    Review sound = new Review(review.name(), review.server(), review.opened(), review.lines());
    for (Line line : review.lines()) {
      if (review.decision(line.key()) != null && !today.changed().contains(line)) {
        sound.decide(line.key(), review.decision(line.key()));
      }
    }
    Revocations.Result revocations =
        Revocations.of(sound, access, reviews.drafting(access, Scope.ALL), broader, clock);
    return new Closing(review, access, today, revocations);
  }

  /** How many lines nobody has decided. */
  public int open() {
    return review.lines().size() - review.decided();
  }

  /** How many lines are no longer as asked, or new. */
  public int stale() {
    return today.changed().size() + today.added().size();
  }

  /** How many were decided on other facts. */
  public int outdated() {
    return (int)
        today.changed().stream().filter(line -> review.decision(line.key()) != null).count();
  }

  /** What has to be done on the server. */
  public List<Step> steps() {
    return revocations.gap().plan().steps();
  }

  /**
   * The statements for that.
   *
   * @param folder where the server's house sheet may be
   */
  public List<String> statements(Path folder) throws BadInput, IOException {
    return Dialects.of(folder, access).shown(steps());
  }

  /**
   * Closes the review and writes its evidence: all its entries, each ending in a digest over those
   * before it.
   *
   * @param folder where the server's house sheet may be
   * @param left why lines are left to somebody, by their keys
   * @param key signs it; null for no signature
   * @return the review as it is kept now
   */
  public ReviewBook.Kept close(
      Reviews reviews,
      Path folder,
      Map<String, String> left,
      Path evidence,
      @Nullable ReviewKey key,
      Clock clock)
      throws BadInput, IOException {
    String name = review.name();
    reviews.book().close(name, statements(folder), left, Ledgers.runner(), clock.instant());
    ReviewBook.Kept closed = reviews.book().read(name);
    String signature = key == null ? "" : key.signed(name, closed.hash()) + "\n";
    String text = String.join("\n", closed.entries()) + "\n" + signature;
    WholeFile.write(evidence, to -> to.write(text.getBytes(StandardCharsets.UTF_8)));
    return closed;
  }
}
