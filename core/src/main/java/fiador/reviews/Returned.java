package fiador.reviews;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Checks a sheet that came back: every row must be a line as it was sent out, in any order, and all
 * lines of the reviewer must be there. All that is wrong is told at once.
 *
 * @param reviewer whose sheet it is; null where that cannot be said
 * @param answers the answers by line; lines left open are not there
 * @param problems what is wrong, each with its row
 */
public record Returned(String reviewer, Map<String, Given> answers, List<String> problems) {
  /** An answer and a remark. */
  public record Given(Answer answer, String remark) {}

  /**
   * A row of a sheet.
   *
   * @param number its number in the sheet, from 1
   * @param cells texts by column; a formula's are told apart
   * @param formulas columns whose cell is a formula
   */
  public record Row(int number, Map<String, String> cells, List<String> formulas) {
    String cell(String column) {
      return cells.getOrDefault(column, "").strip();
    }
  }

  /** The columns of a sheet, in order. */
  public static final List<String> COLUMNS =
      List.of(
          "line",
          "person",
          "may",
          "through",
          "since",
          "last used",
          "findings",
          "decision",
          "remark",
          "review");

  private static final List<String> FACTS = List.of("person", "may", "through");

  /**
   * Checks.
   *
   * @param columns the columns that the sheet has
   */
  public static Returned of(Review review, List<String> columns, List<Row> rows) {
    List<String> problems = new ArrayList<>();
    for (String needed : COLUMNS) {
      if (!columns.contains(needed)) {
        problems.add("the column \"" + needed + "\" is missing");
      }
    }
    if (!problems.isEmpty()) {
      return new Returned(null, Map.of(), problems);
    }
    Map<String, Given> answers = new HashMap<>();
    Map<String, Integer> seen = new HashMap<>();
    String reviewer = null;
    for (Row row : rows) {
      String at = "row " + row.number() + ": ";
      Line line = line(review, row, at, problems);
      if (line == null) {
        // it is wrong already; that it is missing too need not be said
        seen.putIfAbsent(row.cell("line"), row.number());
        continue;
      }
      Integer before = seen.putIfAbsent(line.key(), row.number());
      if (before != null) {
        problems.add(at + "line " + line.key() + " is already in row " + before);
        continue;
      }
      if (reviewer == null) {
        reviewer = line.reviewer();
      } else if (!reviewer.equals(line.reviewer())) {
        problems.add(
            at + "line " + line.key() + " is for " + line.reviewer() + ", not " + reviewer);
      }
      answer(row, at, line, answers, problems);
    }
    if (reviewer == null && problems.isEmpty()) {
      problems.add("there is no line in it");
    }
    for (Line line : reviewer == null ? List.<Line>of() : review.linesOf(reviewer)) {
      if (!seen.containsKey(line.key())) {
        problems.add(
            "line " + line.key() + " (" + line.who() + ", " + line.through() + ") is missing");
      }
    }
    return new Returned(reviewer, answers, problems);
  }

  private static Line line(Review review, Row row, String at, List<String> problems) {
    if (!row.cell("review").equals(review.name())) {
      problems.add(
          at
              + (row.cell("review").isEmpty()
                  ? "it does not say which review it belongs to"
                  : "it belongs to the review " + row.cell("review") + ", not " + review.name()));
      return null;
    }
    Line line = review.line(row.cell("line"));
    if (line == null) {
      problems.add(
          at
              + "there is no line "
              + row.cell("line")
              + " in this review (any more); take a fresh sheet");
      return null;
    }
    for (String fact : FACTS) {
      String sent = sent(line, fact);
      if (!same(sent, row.cell(fact))) {
        problems.add(
            at
                + "\""
                + fact
                + "\" is not what line "
                + line.key()
                + " says ("
                + sent
                + "); were single columns sorted or edited?");
        return null;
      }
    }
    return line;
  }

  private static String sent(Line line, String column) {
    return switch (column) {
      case "person" -> line.who();
      case "may" -> line.may();
      default -> line.through();
    };
  }

  /** Programs for tables change blanks and may show the quote that stops formulas. */
  private static boolean same(String sent, String came) {
    return blanks(sent).equals(blanks(came)) || blanks(sent).equals(blanks(unguarded(came)));
  }

  /** Without the quote that keeps a program for tables from taking a text for a formula. */
  private static String unguarded(String text) {
    boolean guarded = text.length() > 1 && "=+-@".indexOf(text.charAt(1)) >= 0;
    return text.startsWith("'") && guarded ? text.substring(1) : text;
  }

  private static String blanks(String text) {
    return text.replaceAll("\\s+", " ").strip();
  }

  private static void answer(
      Row row, String at, Line line, Map<String, Given> answers, List<String> problems) {
    for (String column : List.of("decision", "remark")) {
      if (row.formulas().contains(column)) {
        problems.add(at + "\"" + column + "\" holds a formula; write the text itself");
        return;
      }
    }
    String said = row.cell("decision");
    if (said.isEmpty()) {
      if (!row.cell("remark").isEmpty()) {
        problems.add(at + "there is a remark and no decision; write keep, revoke or unsure");
      }
      return;
    }
    Answer answer = Answer.named(said);
    if (answer == null) {
      problems.add(at + "\"" + said + "\" is no decision; write keep, revoke or unsure");
      return;
    }
    answers.put(line.key(), new Given(answer, unguarded(row.cell("remark"))));
  }
}
