package fiador.cli.review;

import fiador.cli.shell.BadInput;
import fiador.cli.shell.Charters;
import fiador.cli.shell.Common;
import fiador.cli.shell.Ledgers;
import fiador.cli.shell.Options;
import fiador.estate.Nearest;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.ledger.Ledger;
import fiador.files.ledger.ReviewBook;
import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.reviews.Drafting;
import fiador.reviews.Drafting.Draft;
import fiador.reviews.Freshness;
import fiador.reviews.Review;
import fiador.reviews.Scope;
import fiador.servers.jdbc.ServerException;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/** A step of a review. Reviews live in the ledger of a charter, beside the surveys. */
abstract class ReviewStep extends Common {
  protected Path folder = Path.of("");

  @Override
  public void options(Options options) {
    super.options(options);
    options.charter(value -> folder = value);
  }

  protected Charter charter;
  protected Ledger ledger;
  protected ReviewBook book;

  @Override
  public int run()
      throws BadInput, SurveyException, CharterException, ServerException, IOException {
    charter = Charters.read(folder);
    try (Ledger opened = Ledgers.existing(folder, charter)) {
      ledger = opened;
      book = new ReviewBook(opened);
      return step();
    }
  }

  public abstract int step()
      throws BadInput, SurveyException, CharterException, ServerException, IOException;

  /** The review of that name; the only one there is where none is named. */
  public ReviewBook.Kept kept(String name) throws BadInput, IOException {
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

  /** A review that is still open. */
  public ReviewBook.Kept open(String name) throws BadInput, IOException {
    ReviewBook.Kept kept = kept(name);
    if (kept.review().closed() != null) {
      throw new BadInput("the review " + kept.review().name() + " is closed");
    }
    return kept;
  }

  /** The newest survey of a server. */
  public Access newest(String server) throws BadInput, SurveyException, IOException {
    List<Ledger.Survey> surveys = ledger.surveys(server);
    if (surveys.isEmpty()) {
      throw new BadInput("the ledger has no survey of " + server + " yet; fiador survey takes one");
    }
    return ledger.read(surveys.get(surveys.size() - 1));
  }

  /** What would be asked today. */
  public List<Draft> drafts(Access access, Scope scope) {
    Set<String> ours = charter.expected().ours();
    return new Drafting(access, scope, ours).drafts();
  }

  /** Whether the facts of a review are still so. */
  public Freshness today(ReviewBook.Kept kept) throws BadInput, SurveyException, IOException {
    Review review = kept.review();
    return Freshness.of(review, drafts(newest(review.server()), kept.opened().scope()));
  }

  public static String lines(int count) {
    return count == 1 ? "1 line" : count + " lines";
  }
}
