package fiador.cli.review;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.ledger.ReviewBook;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.text.ReviewText;
import fiador.reviews.Freshness;
import fiador.reviews.Line;
import fiador.reviews.Review;
import java.io.IOException;

public final class ReviewStatusCommand extends ReviewStep {
  String name;
  Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("NAME", value -> name = value, "Which review.");
    options.format(value -> format = value, "text, json, jsonl, csv or markdown.");
  }

  @Override
  public int step() throws Refusal, IOException {
    ReviewBook.Kept kept = reviews.kept(name);
    Review review = kept.review();
    Freshness today = review.closed() == null ? reviews.today(kept) : null;
    if (format == Format.TEXT) {
      out.print(ReviewText.status(review, reviews.newest(review.server()), today, width()));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, ReviewText.FIELDS)) {
        for (Line line : review.lines()) {
          writer.row(ReviewText.row(review, line, today));
        }
      }
    }
    return review.decided() == review.lines().size() ? Exit.YES : Exit.NO;
  }

  @Override
  public String[] description() {
    return new String[] {
      "How far a review has come, reviewer by reviewer, and what is no longer as it was when asked.",
      "In the formats for programs: every line with its decision. Exit code 1 while any is open."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "", "Examples:", "  fiador review status", "  fiador review status spring --format csv"
    };
  }
}
