package fiador.report.sheets;

import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.sheets.ReviewPage.Row;
import fiador.report.shown.Shown;
import fiador.reviews.Returned;
import fiador.reviews.Review;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;

/** A reviewer's lines as xlsx, CSV and HTML; each of them can come back with decisions. */
public final class ReviewSheets {
  private static final int[] WIDTHS = {9, 20, 60, 30, 14, 14, 26, 12, 40, 16};

  private final Review review;
  private final String page;

  /**
   * Of that review.
   *
   * @param page where the page of the estate is, to which people's names lead; null for nowhere
   */
  public ReviewSheets(Review review, String page) {
    this.review = review;
    this.page = page;
  }

  /** As HTML. */
  public void html(String reviewer, OutputStream out) throws IOException {
    out.write(ReviewPage.html(review, reviewer, page).getBytes(StandardCharsets.UTF_8));
  }

  /** As CSV, with a mark at the start that tells programs for tables it is UTF-8. */
  public void csv(String reviewer, OutputStream out) throws IOException {
    out.write("\ufeff".getBytes(StandardCharsets.UTF_8));
    try (RowWriter writer = RowWriter.to(out, Format.CSV, Returned.COLUMNS)) {
      for (List<String> cells : rows(reviewer)) {
        Map<String, String> row = new LinkedHashMap<>();
        for (int i = 0; i < cells.size(); i++) {
          row.put(Returned.COLUMNS.get(i), cells.get(i));
        }
        writer.row(row);
      }
    }
  }

  private List<List<String>> rows(String reviewer) {
    List<List<String>> rows = new ArrayList<>();
    review
        .linesOf(reviewer)
        .forEach(
            line -> {
              Row row = Row.of(review, line, null);
              rows.add(
                  List.of(
                      row.key(),
                      row.person(),
                      row.may(),
                      row.through(),
                      row.since(),
                      row.lastUsed(),
                      row.findings(),
                      row.decision(),
                      row.remark(),
                      review.name()));
            });
    return rows;
  }

  /** As xlsx: every cell is a text, so none can be a formula. */
  public void xlsx(String reviewer, OutputStream out) throws IOException {
    Workbook book = new Workbook(out, "Fiador", "1.0");
    Worksheet sheet = book.newWorksheet("lines");
    List<List<String>> rows = rows(reviewer);
    int columns = Returned.COLUMNS.size();
    for (int at = 0; at < columns; at++) {
      sheet.value(0, at, Returned.COLUMNS.get(at));
      sheet.width(at, WIDTHS[at]);
    }
    sheet.range(0, 0, 0, columns - 1).style().bold().fillColor("E8E4D6").set();
    sheet.freezePane(0, 1);
    for (int row = 0; row < rows.size(); row++) {
      for (int at = 0; at < columns; at++) {
        sheet.value(row + 1, at, rows.get(row).get(at));
      }
    }
    if (!rows.isEmpty()) {
      sheet
          .range(1, 0, rows.size(), columns - 1)
          .style()
          .wrapText(true)
          .verticalAlignment("top")
          .set();
      int decision = Returned.COLUMNS.indexOf("decision");
      sheet
          .range(1, decision, rows.size(), decision)
          .validateWithListByFormula("\"" + String.join(",", ReviewPage.ANSWERS) + "\"")
          .errorTitle("decision")
          .error("keep, revoke or unsure")
          .showErrorMessage(true);
    }
    Worksheet how = book.newWorksheet("how");
    how.width(0, 110);
    List<String> words =
        List.of(
            "Review " + review.name() + " of " + review.server() + ", for " + reviewer,
            "Facts of " + Shown.time(review.opened()) + ".",
            "Write keep, revoke or unsure into the column decision of each line, and a remark where it helps.",
            "Leave all other columns as they are; rows may stand in any order, but none may be missing.",
            "Save the file and send it back; nothing changes before the review is closed.");
    for (int i = 0; i < words.size(); i++) {
      how.value(i, 0, words.get(i));
    }
    book.finish();
  }
}
