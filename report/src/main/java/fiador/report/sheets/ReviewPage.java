package fiador.report.sheets;

import fiador.report.shown.PageLink;
import fiador.report.shown.PageParts;
import fiador.report.shown.Shown;
import fiador.reviews.Decision;
import fiador.reviews.Line;
import fiador.reviews.Review;
import java.util.List;

/**
 * One page on which a reviewer decides, without a server behind it: it saves a file to send back.
 * Only its own script runs on it, whatever names it shows.
 *
 * @param review the review's name
 * @param reviewer who is asked
 * @param server the server it is about
 * @param asOf when its facts were read
 * @param rows the lines
 * @param style how it looks
 * @param script what it does
 * @param scriptDigest names the script to the browser as the only one to run
 */
public record ReviewPage(
    String review,
    String reviewer,
    String server,
    String asOf,
    List<Row> rows,
    String style,
    String script,
    String scriptDigest) {
  /** What can be answered. */
  public static final List<String> ANSWERS = List.of("keep", "revoke", "unsure");

  /** A line as texts. */
  public record Row(
      String key,
      String person,
      String may,
      String through,
      String since,
      String lastUsed,
      String findings,
      String decision,
      String remark,
      String link) {
    static Row of(Review review, Line line, String page) {
      Decision decision = review.decision(line.key());
      return new Row(
          line.key(),
          line.who(),
          line.may(),
          line.through(),
          line.since(),
          line.lastUsed(),
          String.join(", ", line.findings()),
          decision == null ? "" : decision.answer().text(),
          decision == null ? "" : decision.remark(),
          page == null ? "" : PageLink.to(page, PageLink.View.PERSON, line.person()));
    }
  }

  /**
   * The page of one reviewer, as HTML.
   *
   * @param page where the page of the estate is, to which people's names lead; null for nowhere
   */
  static String html(Review review, String reviewer, String page) {
    String script = PageParts.file(ReviewPage.class, "sheet.js");
    ReviewPage sheet =
        new ReviewPage(
            review.name(),
            reviewer,
            review.server(),
            Shown.time(review.opened()),
            review.linesOf(reviewer).stream().map(line -> Row.of(review, line, page)).toList(),
            PageParts.file(ReviewPage.class, "sheet.css"),
            script,
            PageParts.digest(script));
    return PageParts.filled("sheet.jte", sheet);
  }
}
