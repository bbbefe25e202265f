package fiador.cli.review;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.PageAddress;
import fiador.files.WholeFile;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.sheets.ReviewSheets;
import fiador.report.shown.FileLink;
import fiador.reviews.Review;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

public final class ReviewSheetsCommand extends ReviewStep {
  String name;
  Path to;
  String only;
  String page;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("NAME", value -> name = value, "Which review.");
    options.option(
        "--to",
        "DIR",
        Path.class,
        value -> to = value,
        "The folder to write them to; else a folder of the review's name.");
    PageAddress.option(
        options,
        value -> page = value,
        "Where the page that fiador page wrote is, as the reviewers get to it; names then lead there.");
    options.option("--as", "REVIEWER", value -> only = value, "Only this reviewer's.");
  }

  @Override
  public int step() throws Refusal, IOException {
    Review review = reviews.open(name).review();
    Path target = to == null ? folder.resolve(review.name()) : to;
    ReviewSheets sheets = new ReviewSheets(review, PageAddress.checked(page));
    List<String> reviewers = review.reviewers();
    if (only != null && !reviewers.contains(only)) {
      throw new BadInput(
          "nothing is asked of " + only + "; reviewers are " + String.join(", ", reviewers));
    }
    Set<String> taken = new HashSet<>();
    for (String reviewer : reviewers) {
      if (only == null || only.equals(reviewer)) {
        String file = file(review.name() + "-" + reviewer, taken);
        WholeFile.write(target.resolve(file + ".xlsx"), out -> sheets.xlsx(reviewer, out));
        WholeFile.write(target.resolve(file + ".csv"), out -> sheets.csv(reviewer, out));
        WholeFile.write(target.resolve(file + ".html"), out -> sheets.html(reviewer, out));
        String asked = lines(review.linesOf(reviewer).size());
        out.println(
            reviewer
                + ": "
                + asked
                + ", "
                + FileLink.to(
                    target.resolve(file + ".html"), target.resolve(file) + ".{xlsx,csv,html}"));
      }
    }
    say("what comes back: fiador review decide " + review.name() + " FILE");
    return Exit.YES;
  }

  /** A name that is one on every file system, and no other reviewer's. */
  private static String file(String wanted, Set<String> taken) {
    String bare = wanted.replaceAll("[^\\p{L}\\p{N}._-]", "_");
    String file = bare;
    for (int i = 2; !taken.add(file.toLowerCase(Locale.ROOT)); i++) {
      file = bare + "-" + i;
    }
    return file;
  }

  @Override
  public String[] description() {
    return new String[] {
      "Writes what each reviewer is asked: as xlsx, as CSV, and as a page for the browser.",
      "Decisions come back in any of them: the page saves a CSV."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "", "Examples:", "  fiador review sheets spring", "  fiador review sheets spring --to out"
    };
  }
}
