package fiador.cli.review;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.ledger.ReviewKey;
import fiador.refusal.BadInput;
import fiador.report.shown.FileLink;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

public final class ReviewKeyCommand extends Common {
  private static final String VARIABLE = "FIADOR_REVIEW_KEY";

  Path to;

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--to",
        "FILE",
        Path.class,
        value -> to = value,
        "Where to write it; else fiador/review.key in the folder for your settings.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Makes a key with which evidence of reviews is signed, and shows its public part for the charter.",
      "The key is for your eyes only: whoever has it can sign in your name."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "fiador review close signs with the key in FIADOR_REVIEW_KEY (a file), else with the usual one if",
      "there is one. fiador review verify takes signatures by the keys under review_keys in the charter.",
      "",
      "Examples:",
      "  fiador review key",
      "  fiador review key --to /media/stick/review.key"
    };
  }

  @Override
  public int run() throws BadInput, IOException {
    Path file = to == null ? usual() : to;
    ReviewKey key = ReviewKey.make(file);
    out.println("made a key: " + FileLink.to(file));
    out.println();
    out.println("its public part, for the charter:");
    out.println("  review_keys:");
    out.println("    " + Ledgers.runner() + ": " + key.shown());
    return Exit.YES;
  }

  /** The key to sign with; null where there is none. */
  static ReviewKey own() throws BadInput, IOException {
    String named = System.getenv(VARIABLE);
    if (named != null && !named.isEmpty()) {
      Path file = Path.of(named);
      if (!Files.isRegularFile(file)) {
        throw new BadInput(VARIABLE + " names " + file + ", and there is no such file");
      }
      return ReviewKey.read(file);
    }
    Path usual = usual();
    return Files.isRegularFile(usual) ? ReviewKey.read(usual) : null;
  }

  private static Path usual() {
    String settings = System.getenv("XDG_CONFIG_HOME");
    Path folder =
        settings != null && !settings.isEmpty()
            ? Path.of(settings)
            : Path.of(System.getProperty("user.home"), ".config");
    return folder.resolve("fiador/review.key");
  }
}
