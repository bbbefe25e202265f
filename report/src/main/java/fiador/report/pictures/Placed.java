package fiador.report.pictures;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import java.awt.geom.Point2D;
import java.awt.geom.Rectangle2D;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A figure with a place for everything, in units of which one is a pixel at the natural size.
 *
 * @param figure what is shown
 * @param width of everything
 * @param height of everything
 * @param boxes where each box is
 * @param lines where each line goes
 */
public record Placed(
    Figure figure, double width, double height, List<BoxAt> boxes, List<LineAt> lines) {

  /**
   * A box at its place.
   *
   * @param name as much of its name as fits
   * @param below as much of its second line as fits
   */
  public record BoxAt(Box box, Rectangle2D.Double place, String name, String below) {}

  /**
   * A line at its place.
   *
   * @param points from the first box to the second, with the bends between
   * @param label where its label is; null where it has none
   */
  public record LineAt(
      Line line, List<Point2D.Double> points, Rectangle2D.@Nullable Double label) {}
}
