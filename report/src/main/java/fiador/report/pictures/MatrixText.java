package fiador.report.pictures;

import fiador.report.pictures.Matrix.Cell;
import fiador.report.pictures.Matrix.Level;
import fiador.report.pictures.Matrix.Row;
import java.util.ArrayList;
import java.util.List;

/** A matrix as text, in columns. */
public final class MatrixText {
  private static final int APART = 2;

  private MatrixText() {}

  /**
   * The text, its title first, its origin last.
   *
   * @param width of a line; columns beyond it go below, with the heads once more
   */
  public static String of(Matrix matrix, int width) {
    List<List<String>> rows = new ArrayList<>();
    List<String> head = new ArrayList<>(List.of(""));
    head.addAll(matrix.columns());
    rows.add(head);
    for (Row row : matrix.rows()) {
      List<String> cells = new ArrayList<>();
      cells.add(
          String.join(", ", row.names()).length() <= 40
              ? String.join(", ", row.names())
              : row.head() + ": " + row.below());
      row.cells().forEach(cell -> cells.add(said(cell)));
      rows.add(cells);
    }
    int[] widths = new int[head.size()];
    for (List<String> row : rows) {
      for (int at = 0; at < row.size(); at++) {
        widths[at] = Math.max(widths[at], row.get(at).length());
      }
    }
    StringBuilder text = new StringBuilder(matrix.title()).append("\n");
    for (int from = 1; from < widths.length; ) {
      int to = from + 1;
      int used = widths[0] + APART + widths[from];
      while (to < widths.length && used + APART + widths[to] <= width) {
        used += APART + widths[to++];
      }
      text.append('\n');
      block(text, rows, widths, from, to);
      from = to;
    }
    matrix.notes().forEach(note -> text.append('\n').append(note));
    text.append(matrix.notes().isEmpty() ? "" : "\n");
    return text.append("\n(").append(matrix.origin()).append(")\n").toString();
  }

  private static void block(
      StringBuilder text, List<List<String>> rows, int[] widths, int from, int to) {
    for (List<String> row : rows) {
      StringBuilder line = new StringBuilder(padded(row.get(0), widths[0]));
      for (int at = from; at < to; at++) {
        line.append(" ".repeat(APART)).append(padded(row.get(at), widths[at]));
      }
      text.append(line.toString().stripTrailing()).append('\n');
    }
  }

  private static String padded(String text, int width) {
    return text + " ".repeat(Math.max(0, width - text.length()));
  }

  private static String said(Cell cell) {
    if (cell.level() == Level.NONE) {
      return "-";
    }
    List<String> more = new ArrayList<>();
    if (!cell.standing().isEmpty()) {
      more.add(cell.standing());
    }
    if (!cell.extent().isEmpty()) {
      more.add(cell.extent());
    }
    return cell.level().text() + (more.isEmpty() ? "" : " (" + String.join(", ", more) + ")");
  }
}
