package fiador.report.pictures;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import fiador.report.pictures.Placed.BoxAt;
import fiador.report.pictures.Placed.LineAt;
import java.awt.Graphics2D;
import java.awt.geom.AffineTransform;
import java.awt.geom.Path2D;
import java.awt.geom.Point2D;
import java.awt.geom.Rectangle2D;
import java.awt.geom.RoundRectangle2D;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Draws a figure that has its places. */
final class Painter implements Drawing {
  private static final double ARC = 8;
  private static final double CORNER = 7;
  private static final double SAMPLE = 34;
  private static final double GAP = 22;

  private final Placed placed;
  private final Set<Manner> manners = EnumSet.noneOf(Manner.class);
  private final Set<Shape> shapes = EnumSet.noneOf(Shape.class);

  Painter(Placed placed) {
    this.placed = placed;
    placed.lines().forEach(line -> manners.add(line.line().manner()));
    placed.boxes().forEach(box -> shapes.add(box.box().shape()));
  }

  @Override
  public double width() {
    double title = Lettering.width(title(), Lettering.TITLE);
    double origin = Lettering.width(placed.figure().origin(), Lettering.SMALL + 1);
    double text = Math.max(Math.max(title, origin), legendWidth());
    return Math.max(placed.width(), text) + 2 * Sheet.MARGIN;
  }

  @Override
  public double height() {
    return Sheet.HEADER
        + placed.height()
        + Sheet.LEGEND
        + Sheet.height(placed.figure().notes(), width() - 2 * Sheet.MARGIN)
        + 2 * Sheet.MARGIN;
  }

  @Override
  public String title() {
    return placed.figure().title();
  }

  @Override
  public String inWords() {
    Map<String, Box> boxes = placed.figure().byId();
    StringBuilder words = new StringBuilder(placed.figure().origin()).append('.');
    for (Line line : placed.figure().lines()) {
      words.append(' ').append(name(boxes, line.from())).append(" to ");
      words.append(name(boxes, line.to()));
      words.append(line.label().isEmpty() ? "" : ": " + line.label());
      words.append(" (").append(line.manner().text()).append(").");
    }
    return words.toString();
  }

  private static String name(Map<String, Box> boxes, String id) {
    Box box = boxes.get(id);
    return box == null ? "" : box.name();
  }

  @Override
  public void on(Sheet sheet) {
    sheet.title(title(), placed.figure().origin());
    Graphics2D pen = sheet.pen();
    AffineTransform before = pen.getTransform();
    pen.translate(Sheet.MARGIN, Sheet.MARGIN + Sheet.HEADER);
    for (LineAt line : placed.lines()) {
      line(sheet, line);
    }
    for (BoxAt box : placed.boxes()) {
      box(sheet, box);
    }
    pen.setTransform(before);
    double below = Sheet.MARGIN + Sheet.HEADER + placed.height() + Sheet.LEGEND;
    legend(sheet, below);
    sheet.notes(placed.figure().notes(), below + Sheet.NOTE + CORNER, width() - 2 * Sheet.MARGIN);
  }

  private static void line(Sheet sheet, LineAt at) {
    Line line = at.line();
    sheet.pen().setColor(sheet.theme().of(line.manner()));
    Strokes.draw(sheet.pen(), line.manner(), at.points());
    Rectangle2D.Double place = at.label();
    if (place != null) {
      sheet.pen().setColor(sheet.theme().paper());
      sheet.pen().fill(place);
      sheet.says(line.label());
      sheet.text(
          Layout.label(line),
          place.x + 2,
          place.y + Lettering.SMALL,
          Lettering.SMALL,
          sheet.theme().of(line.manner()));
    }
  }

  private static void box(Sheet sheet, BoxAt at) {
    Graphics2D pen = sheet.pen();
    Theme theme = sheet.theme();
    Box box = at.box();
    java.awt.Shape outline = outline(box.shape(), at.place());
    pen.setColor(theme.fill(box.shape()));
    sheet.says(box.kind() + ": " + String.join(", ", box.members()));
    pen.fill(outline);
    pen.setColor(theme.edge(box.shape()));
    pen.setStroke(Strokes.plain(box.focus() ? 3 : 1.3f));
    pen.draw(outline);
    double middle = at.place().y + at.place().height / 2;
    boolean two = !at.below().isEmpty();
    double name = Lettering.width(at.name(), Lettering.NAME);
    double left = at.place().x + (at.place().width - name) / 2;
    sheet.text(at.name(), left, middle + (two ? -3 : 4.5), Lettering.NAME, theme.text());
    double small = Lettering.width(at.below(), Lettering.SMALL);
    sheet.text(
        at.below(),
        at.place().x + (at.place().width - small) / 2,
        middle + 13,
        Lettering.SMALL,
        theme.faint());
  }

  private static java.awt.Shape outline(Shape shape, Rectangle2D.Double at) {
    return switch (shape) {
      case USER ->
          new RoundRectangle2D.Double(at.x, at.y, at.width, at.height, at.height, at.height);
      case ROLE -> new RoundRectangle2D.Double(at.x, at.y, at.width, at.height, ARC, ARC);
      case CONTAINER -> cut(at);
      case THING -> at;
    };
  }

  /** A rectangle without corners. */
  private static Path2D.Double cut(Rectangle2D.Double at) {
    Path2D.Double path = new Path2D.Double();
    path.moveTo(at.x + CORNER, at.y);
    path.lineTo(at.getMaxX() - CORNER, at.y);
    path.lineTo(at.getMaxX(), at.y + CORNER);
    path.lineTo(at.getMaxX(), at.getMaxY() - CORNER);
    path.lineTo(at.getMaxX() - CORNER, at.getMaxY());
    path.lineTo(at.x + CORNER, at.getMaxY());
    path.lineTo(at.x, at.getMaxY() - CORNER);
    path.lineTo(at.x, at.y + CORNER);
    path.closePath();
    return path;
  }

  private static String word(Shape shape) {
    return switch (shape) {
      case USER -> "user";
      case ROLE -> "role";
      case CONTAINER -> "schema, database or server";
      case THING -> "table or other thing";
    };
  }

  private double legendWidth() {
    double width = 0;
    for (Shape shape : shapes) {
      width += SAMPLE + Lettering.width(word(shape), Lettering.SMALL) + GAP;
    }
    for (Manner manner : manners) {
      width += SAMPLE + Lettering.width(manner.text(), Lettering.SMALL) + GAP;
    }
    return width;
  }

  private void legend(Sheet sheet, double y) {
    double x = Sheet.MARGIN;
    for (Shape shape : shapes) {
      java.awt.Shape sample = outline(shape, new Rectangle2D.Double(x, y - 11, SAMPLE - 8, 14));
      sheet.pen().setColor(sheet.theme().fill(shape));
      sheet.pen().fill(sample);
      sheet.pen().setColor(sheet.theme().edge(shape));
      sheet.pen().setStroke(Strokes.plain(1.3f));
      sheet.pen().draw(sample);
      x = said(sheet, word(shape), x, y);
    }
    for (Manner manner : manners) {
      sheet.pen().setColor(sheet.theme().of(manner));
      Strokes.draw(
          sheet.pen(),
          manner,
          List.of(new Point2D.Double(x, y - 4), new Point2D.Double(x + SAMPLE - 6, y - 4)));
      x = said(sheet, manner.text(), x, y);
    }
  }

  private static double said(Sheet sheet, String text, double x, double y) {
    sheet.text(text, x + SAMPLE, y, Lettering.SMALL, sheet.theme().faint());
    return x + SAMPLE + Lettering.width(text, Lettering.SMALL) + GAP;
  }
}
