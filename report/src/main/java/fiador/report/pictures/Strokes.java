package fiador.report.pictures;

import fiador.report.pictures.Figure.Manner;
import java.awt.BasicStroke;
import java.awt.Graphics2D;
import java.awt.Stroke;
import java.awt.geom.AffineTransform;
import java.awt.geom.Ellipse2D;
import java.awt.geom.Line2D;
import java.awt.geom.Path2D;
import java.awt.geom.Point2D;
import java.util.List;

/** How the lines of each manner are drawn, so that they differ without any colour. */
final class Strokes {
  private static final float HEAD = 8;
  private static final float HALF = 4;

  private Strokes() {}

  private static Stroke stroke(Manner manner) {
    return switch (manner) {
      case WORKS -> plain(1.5f);
      case ON_REQUEST -> dashed(1.5f, 7, 4);
      case BLOCKED -> dashed(1.6f, 2, 4);
      case DENIED -> dashed(1.6f, 9, 3, 2, 3);
      case LAPSED -> dashed(1.3f, 1, 5);
      case COMES -> plain(2.6f);
      case GOES -> dashed(2.2f, 11, 5);
    };
  }

  static Stroke plain(float width) {
    return new BasicStroke(width, BasicStroke.CAP_BUTT, BasicStroke.JOIN_ROUND);
  }

  private static Stroke dashed(float width, float... dashes) {
    return new BasicStroke(width, BasicStroke.CAP_BUTT, BasicStroke.JOIN_ROUND, 10, dashes, 0);
  }

  /** Draws a line with its end, in the colour that is set. */
  static void draw(Graphics2D to, Manner manner, List<Point2D.Double> points) {
    Path2D.Double way = new Path2D.Double();
    Point2D.Double last = points.get(points.size() - 1);
    way.moveTo(points.get(0).x, points.get(0).y);
    points.subList(1, points.size()).forEach(point -> way.lineTo(point.x, point.y));
    to.setStroke(stroke(manner));
    to.draw(way);
    Point2D.Double before = points.get(points.size() - 2);
    AffineTransform turned = AffineTransform.getTranslateInstance(last.x, last.y);
    turned.rotate(last.x - before.x, last.y - before.y);
    end(to, manner, turned);
  }

  private static void end(Graphics2D to, Manner manner, AffineTransform at) {
    to.setStroke(plain(1.6f));
    switch (manner) {
      case WORKS, COMES -> to.fill(at.createTransformedShape(head()));
      case ON_REQUEST -> to.draw(at.createTransformedShape(head()));
      case BLOCKED -> {
        line(to, at, -HALF, -HEAD + 2, -HALF, HEAD - 2);
        line(to, at, -HEAD, -HEAD + 2, -HEAD, HEAD - 2);
      }
      case DENIED, GOES -> {
        line(to, at, -HEAD - 2, -HALF - 1, -2, HALF + 1);
        line(to, at, -HEAD - 2, HALF + 1, -2, -HALF - 1);
      }
      case LAPSED ->
          to.draw(at.createTransformedShape(new Ellipse2D.Double(-HEAD, -HALF, HEAD, 2 * HALF)));
    }
  }

  private static Path2D.Double head() {
    Path2D.Double head = new Path2D.Double();
    head.moveTo(0, 0);
    head.lineTo(-HEAD, -HALF);
    head.lineTo(-HEAD, HALF);
    head.closePath();
    return head;
  }

  private static void line(
      Graphics2D to, AffineTransform at, double x1, double y1, double x2, double y2) {
    to.draw(at.createTransformedShape(new Line2D.Double(x1, y1, x2, y2)));
  }
}
