package fiador.cli;

import fiador.campaigns.Freshness;
import fiador.campaigns.Line;
import fiador.campaigns.Review;
import fiador.files.charter.CharterException;
import fiador.files.ledger.ReviewBook;
import fiador.files.survey.SurveyException;
import fiador.report.Format;
import fiador.report.ReviewText;
import fiador.report.RowWriter;
import fiador.servers.ServerException;
import java.io.IOException;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

final class ReviewStatusCommand extends ReviewStep {
  @Parameters(index = "0", arity = "0..1", paramLabel = "NAME", description = "Which review.")
  String name;

  @Option(
      names = "--format",
      paramLabel = "F",
      description = "text, json, jsonl, csv or markdown.",
      defaultValue = "text")
  Format format;

  @Override
  int step() throws BadInput, SurveyException, CharterException, ServerException, IOException {
    ReviewBook.Kept kept = kept(name);
    Review review = kept.review();
    Freshness today = review.closed() == null ? today(kept) : null;
    if (format == Format.TEXT) {
      out.print(ReviewText.status(review, newest(review.server()), today, width()));
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
  String[] description() {
    return new String[] {
      "How far a review has come, reviewer by reviewer, and what is no longer as it was when asked.",
      "In the formats for programs: every line with its decision. Exit code 1 while any is open."
    };
  }

  @Override
  String[] footer() {
    return new String[] {
      "", "Examples:", "  fiador review status", "  fiador review status spring --format csv"
    };
  }
}
