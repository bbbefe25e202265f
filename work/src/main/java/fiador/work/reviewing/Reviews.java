package fiador.work.reviewing;

import fiador.estate.Nearest;
import fiador.files.charter.Charter;
import fiador.files.ledger.Ledger;
import fiador.files.ledger.ReviewBook;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.reviews.Drafting;
import fiador.reviews.Freshness;
import fiador.reviews.Review;
import fiador.reviews.Scope;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The reviews of a charter, which live in its ledger beside the surveys. */
public final class Reviews implements AutoCloseable {
  private final Charter charter;
  private final Ledger ledger;
  private final ReviewBook book;

  /**
   * Opens them.
   *
   * @throws Refusal when the charter keeps no ledger, or has none yet
   */
  public Reviews(Path folder, Charter charter) throws Refusal, IOException {
    this.charter = charter;
    this.ledger = Ledgers.existing(folder, charter);
    this.book = new ReviewBook(ledger);
  }

  /** Where the surveys are. */
  public Ledger ledger() {
    return ledger;
  }

  /** Where the reviews are. */
  public ReviewBook book() {
    return book;
  }

  /**
   * The review of that name.
   *
   * @param name null for the only one there is
   * @throws BadInput when there is none, or none is named and there are several
   */
  public ReviewBook.Kept kept(@Nullable String name) throws BadInput, IOException {
    List<String> names = book.names();
    if (name == null && names.size() != 1) {
      throw new BadInput(
          names.isEmpty()
              ? "there is no review yet; fiador review open NAME begins one"
              : "there are several reviews; name one of " + String.join(", ", names));
    }
    String wanted = name == null ? names.get(0) : name;
    ReviewBook.Kept kept = book.read(wanted);
    if (kept == null) {
      throw new BadInput("there is no review " + wanted + Nearest.hint(wanted, names.stream()));
    }
    return kept;
  }

  /** A review that is still open; name as for any. */
  public ReviewBook.Kept open(@Nullable String name) throws BadInput, IOException {
    ReviewBook.Kept kept = kept(name);
    if (kept.review().closed() != null) {
      throw new BadInput("the review " + kept.review().name() + " is closed");
    }
    return kept;
  }

  /**
   * The newest survey of a server.
   *
   * @throws BadInput when the ledger has none
   */
  public Access newest(String server) throws Refusal, IOException {
    List<Ledger.Survey> surveys = ledger.surveys(server);
    if (surveys.isEmpty()) {
      throw new BadInput("the ledger has no survey of " + server + " yet; fiador survey takes one");
    }
    return ledger.read(surveys.get(surveys.size() - 1));
  }

  /** Finds what is asked about; accounts that administer a server of the charter are no matter. */
  public Drafting drafting(Access access, Scope scope) {
    return new Drafting(access, scope, charter.expected().ours());
  }

  /** Whether the facts of a review are still so. */
  public Freshness today(ReviewBook.Kept kept) throws Refusal, IOException {
    Review review = kept.review();
    Access access = newest(review.server());
    return Freshness.of(review, drafting(access, kept.opened().scope()).drafts());
  }

  @Override
  public void close() throws IOException {
    ledger.close();
  }
}
