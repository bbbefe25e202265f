package fiador.cli.review;

import fiador.cli.shell.Common;
import fiador.cli.shell.Options;
import fiador.evidence.Identities;
import fiador.files.charter.Charter;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import fiador.work.reviewing.Reviews;
import java.io.IOException;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/** A step of a review. Reviews live in the ledger of a charter, beside the surveys. */
abstract class ReviewStep extends Common {
  protected Path folder = Path.of("");

  @Override
  public void options(Options options) {
    super.options(options);
    options.charter(value -> folder = value);
  }

  protected Charter charter;
  protected Reviews reviews;

  @Override
  public int run() throws Refusal, IOException {
    charter = Charters.read(folder);
    try (Reviews opened = new Reviews(folder, charter)) {
      reviews = opened;
      return step();
    }
  }

  public abstract int step() throws Refusal, IOException;

  /** The people there are: of a list, which may be null, and of the charter. */
  protected Identities everybody(@Nullable Identities list) {
    Identities listed = list == null ? Identities.NOBODY : list;
    return listed.joined(charter.expected().accounts());
  }

  public static String lines(int count) {
    return count == 1 ? "1 line" : count + " lines";
  }
}
