package fiador.report.pictures;

import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import fiador.report.pictures.Matrix.Cell;
import fiador.report.pictures.Matrix.Level;
import fiador.report.pictures.Matrix.Row;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.geom.Line2D;
import java.awt.geom.Rectangle2D;
import java.util.List;

/** Draws a matrix: words in cells, stronger ground the more somebody can do. */
final class MatrixPainter implements Drawing {
  private static final double HEAD_MOST = 190;
  private static final double COLUMN_LEAST = 84;
  private static final double COLUMN_MOST = 150;
  private static final double ROW = 36;
  private static final double HEADS = 26;
  private static final double PAD = 8;

  private final Matrix matrix;
  private final double head;
  private final double column;

  MatrixPainter(Matrix matrix) {
    this.matrix = matrix;
    double widest = 0;
    for (Row row : matrix.rows()) {
      widest = Math.max(widest, Lettering.width(row.head(), Lettering.NAME));
      widest = Math.max(widest, Lettering.width(row.below(), Lettering.SMALL));
    }
    this.head = Math.min(HEAD_MOST, widest) + 2 * PAD;
    double names = COLUMN_LEAST;
    for (String name : matrix.columns()) {
      names = Math.max(names, Lettering.width(name, Lettering.NAME) + 2 * PAD);
    }
    for (Row row : matrix.rows()) {
      for (Cell cell : row.cells()) {
        names = Math.max(names, Lettering.width(word(cell), Lettering.NAME) + 2 * PAD);
        names = Math.max(names, Lettering.width(cell.extent(), Lettering.SMALL) + 2 * PAD);
      }
    }
    this.column = Math.min(COLUMN_MOST, names);
  }

  @Override
  public double width() {
    double table = head + column * matrix.columns().size();
    double title = Lettering.width(title(), Lettering.TITLE);
    double origin = Lettering.width(matrix.origin(), Lettering.SMALL + 1);
    return Math.max(table, Math.max(title, origin)) + 2 * Sheet.MARGIN;
  }

  @Override
  public double height() {
    return Sheet.HEADER
        + HEADS
        + ROW * matrix.rows().size()
        + Sheet.NOTE
        + Sheet.height(matrix.notes(), width() - 2 * Sheet.MARGIN)
        + 2 * Sheet.MARGIN;
  }

  @Override
  public String title() {
    return matrix.title();
  }

  @Override
  public String inWords() {
    StringBuilder words = new StringBuilder(matrix.origin()).append('.');
    for (Row row : matrix.rows()) {
      words.append(' ').append(String.join(", ", row.names())).append(':');
      for (int at = 0; at < row.cells().size(); at++) {
        Cell cell = row.cells().get(at);
        if (cell.level() != Level.NONE) {
          String extent = cell.extent().isEmpty() ? "" : " (" + cell.extent() + ")";
          words.append(' ').append(matrix.columns().get(at)).append(' ');
          words.append(word(cell)).append(extent).append(';');
        }
      }
    }
    return words.toString();
  }

  private static String word(Cell cell) {
    String standing = cell.standing();
    return standing.isEmpty() ? cell.level().text() : cell.level().text() + ", " + standing;
  }

  @Override
  public void on(Sheet sheet) {
    sheet.title(title(), matrix.origin());
    double top = Sheet.MARGIN + Sheet.HEADER;
    Theme theme = sheet.theme();
    for (int at = 0; at < matrix.columns().size(); at++) {
      String name = matrix.columns().get(at);
      String fits = Lettering.fitting(name, Lettering.NAME, column - 2 * PAD);
      sheet.says(name);
      sheet.text(fits, left(at) + PAD, top + 16, Lettering.NAME, theme.text());
    }
    double y = top + HEADS;
    for (Row row : matrix.rows()) {
      row(sheet, row, y);
      y += ROW;
    }
    rule(sheet, y);
    sheet.notes(matrix.notes(), y + Sheet.NOTE + PAD, width() - 2 * Sheet.MARGIN);
  }

  private double left(int at) {
    return Sheet.MARGIN + head + at * column;
  }

  private void rule(Sheet sheet, double y) {
    sheet.pen().setColor(mixed(sheet.theme().faint(), sheet.theme().paper(), 0.35));
    sheet.pen().setStroke(Strokes.plain(1));
    double right = left(matrix.columns().size());
    sheet.pen().draw(new Line2D.Double(Sheet.MARGIN, y, right, y));
  }

  private void row(Sheet sheet, Row row, double y) {
    rule(sheet, y);
    Theme theme = sheet.theme();
    boolean two = !row.below().isEmpty();
    sheet.says(String.join(", ", row.names()));
    String name = Lettering.fitting(row.head(), Lettering.NAME, head - 2 * PAD);
    sheet.text(name, Sheet.MARGIN, y + (two ? 16 : 22), Lettering.NAME, theme.text());
    String below = Lettering.fitting(row.below(), Lettering.SMALL, head - 2 * PAD);
    sheet.text(below, Sheet.MARGIN, y + 29, Lettering.SMALL, theme.faint());
    List<Cell> cells = row.cells();
    for (int at = 0; at < cells.size(); at++) {
      cell(sheet, cells.get(at), left(at), y);
    }
  }

  private void cell(Sheet sheet, Cell cell, double x, double y) {
    if (cell.level() == Level.NONE) {
      return;
    }
    Graphics2D pen = sheet.pen();
    Theme theme = sheet.theme();
    Rectangle2D.Double place = new Rectangle2D.Double(x + 3, y + 3, column - 6, ROW - 6);
    boolean works = cell.state().works();
    Color strong = works ? theme.edge(Shape.USER) : theme.of(Manner.BLOCKED);
    if (works) {
      double much = 0.08 + 0.11 * cell.level().ordinal();
      pen.setColor(mixed(strong, theme.paper(), theme == Theme.PRINT ? much / 2 : much));
      pen.fill(place);
    }
    pen.setColor(strong);
    boolean dashed = cell.level() == Level.COLUMNS || !cell.standing().isEmpty();
    pen.setStroke(
        dashed
            ? new BasicStroke(
                1.3f, BasicStroke.CAP_BUTT, BasicStroke.JOIN_MITER, 10, new float[] {4, 3}, 0)
            : Strokes.plain(cell.level() == Level.OWN ? 2.4f : 1));
    pen.draw(place);
    boolean two = !cell.extent().isEmpty();
    Color text = works ? theme.text() : strong;
    String word = Lettering.fitting(word(cell), Lettering.NAME, column - 2 * PAD);
    sheet.text(word, x + PAD, y + (two ? 17 : 22), Lettering.NAME, text);
    String extent = Lettering.fitting(cell.extent(), Lettering.SMALL, column - 2 * PAD);
    sheet.text(extent, x + PAD, y + 29, Lettering.SMALL, theme.text());
  }

  private static Color mixed(Color one, Color other, double share) {
    return new Color(
        (int) (one.getRed() * share + other.getRed() * (1 - share)),
        (int) (one.getGreen() * share + other.getGreen() * (1 - share)),
        (int) (one.getBlue() * share + other.getBlue() * (1 - share)));
  }
}
