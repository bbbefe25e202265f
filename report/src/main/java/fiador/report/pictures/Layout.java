package fiador.report.pictures;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Shape;
import fiador.report.pictures.Placed.BoxAt;
import fiador.report.pictures.Placed.LineAt;
import java.awt.geom.Point2D;
import java.awt.geom.Rectangle2D;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.eclipse.elk.alg.layered.LayeredLayoutProvider;
import org.eclipse.elk.alg.layered.options.LayerConstraint;
import org.eclipse.elk.alg.layered.options.LayeredOptions;
import org.eclipse.elk.core.data.LayoutMetaDataService;
import org.eclipse.elk.core.options.CoreOptions;
import org.eclipse.elk.core.options.Direction;
import org.eclipse.elk.core.options.EdgeLabelPlacement;
import org.eclipse.elk.core.options.EdgeRouting;
import org.eclipse.elk.core.util.BasicProgressMonitor;
import org.eclipse.elk.graph.ElkBendPoint;
import org.eclipse.elk.graph.ElkEdge;
import org.eclipse.elk.graph.ElkEdgeSection;
import org.eclipse.elk.graph.ElkLabel;
import org.eclipse.elk.graph.ElkNode;
import org.eclipse.elk.graph.util.ElkGraphUtil;

/**
 * Gives everything in a figure a place: people on the left, things on the right, roles in layers
 * between them, lines round the boxes and labels in gaps of their own. The work is done by the
 * layered algorithm of ELK; the same figure always gets the same places.
 */
public final class Layout {
  private static final double WIDEST = 230;
  private static final double PADDING = 11;
  private static final double ONE_LINE = 28;
  private static final double TWO_LINES = 42;
  private static final double LABEL_HEIGHT = 14;
  private static final double WIDEST_LABEL = 240;
  private static final int SEED = 1;

  private Layout() {}

  /** The figure with places. */
  public static Placed place(Figure figure) {
    LayoutMetaDataService.initElkReflect();
    ElkNode graph = ElkGraphUtil.createGraph();
    options(graph);
    Map<String, ElkNode> nodes = new LinkedHashMap<>();
    Map<String, BoxAt> sized = new LinkedHashMap<>();
    for (Box box : figure.boxes()) {
      BoxAt at = sized(box);
      ElkNode node = ElkGraphUtil.createNode(graph);
      node.setDimensions(at.place().width, at.place().height);
      constrain(node, box, figure);
      nodes.put(box.id(), node);
      sized.put(box.id(), at);
    }
    Map<Line, ElkEdge> edges = new LinkedHashMap<>();
    for (Line line : figure.lines()) {
      ElkEdge edge = ElkGraphUtil.createSimpleEdge(nodes.get(line.from()), nodes.get(line.to()));
      if (!line.label().isEmpty()) {
        ElkLabel label = ElkGraphUtil.createLabel(label(line), edge);
        label.setDimensions(Lettering.width(label(line), Lettering.SMALL) + 4, LABEL_HEIGHT);
        label.setProperty(CoreOptions.EDGE_LABELS_PLACEMENT, EdgeLabelPlacement.CENTER);
      }
      edges.put(line, edge);
    }
    // the algorithm itself: what finds algorithms by name takes longer to start than it
    new LayeredLayoutProvider().layout(graph, new BasicProgressMonitor());
    return placed(figure, graph, nodes, sized, edges);
  }

  /** As much of a line's label as fits. */
  static String label(Line line) {
    return Lettering.fitting(line.label(), Lettering.SMALL, WIDEST_LABEL);
  }

  private static void options(ElkNode graph) {
    graph.setProperty(CoreOptions.DIRECTION, Direction.RIGHT);
    graph.setProperty(CoreOptions.EDGE_ROUTING, EdgeRouting.ORTHOGONAL);
    graph.setProperty(CoreOptions.RANDOM_SEED, SEED);
    graph.setProperty(CoreOptions.SPACING_NODE_NODE, 14.0);
    graph.setProperty(CoreOptions.SPACING_EDGE_NODE, 12.0);
    graph.setProperty(CoreOptions.SPACING_EDGE_EDGE, 9.0);
    graph.setProperty(CoreOptions.SPACING_EDGE_LABEL, 2.0);
    graph.setProperty(LayeredOptions.SPACING_NODE_NODE_BETWEEN_LAYERS, 34.0);
    graph.setProperty(LayeredOptions.SPACING_EDGE_NODE_BETWEEN_LAYERS, 14.0);
    graph.setProperty(LayeredOptions.SPACING_EDGE_EDGE_BETWEEN_LAYERS, 9.0);
  }

  /** People without anything before them stand first, things with nothing behind them last. */
  private static void constrain(ElkNode node, Box box, Figure figure) {
    if (box.shape() == Shape.USER
        && figure.lines().stream().noneMatch(line -> line.to().equals(box.id()))) {
      node.setProperty(LayeredOptions.LAYERING_LAYER_CONSTRAINT, LayerConstraint.FIRST);
    } else if ((box.shape() == Shape.THING || box.shape() == Shape.CONTAINER)
        && figure.lines().stream().noneMatch(line -> line.from().equals(box.id()))
        && figure.lines().stream().anyMatch(line -> line.to().equals(box.id()))) {
      node.setProperty(LayeredOptions.LAYERING_LAYER_CONSTRAINT, LayerConstraint.LAST);
    }
  }

  private static BoxAt sized(Box box) {
    String name = Lettering.fitting(box.name(), Lettering.NAME, WIDEST - 2 * PADDING);
    String below = Lettering.fitting(box.below(), Lettering.SMALL, WIDEST - 2 * PADDING);
    double text =
        Math.max(Lettering.width(name, Lettering.NAME), Lettering.width(below, Lettering.SMALL));
    double height = below.isEmpty() ? ONE_LINE : TWO_LINES;
    return new BoxAt(
        box, new Rectangle2D.Double(0, 0, Math.ceil(text + 2 * PADDING), height), name, below);
  }

  private static Placed placed(
      Figure figure,
      ElkNode graph,
      Map<String, ElkNode> nodes,
      Map<String, BoxAt> sized,
      Map<Line, ElkEdge> edges) {
    List<BoxAt> boxes = new ArrayList<>();
    nodes.forEach(
        (id, node) -> {
          BoxAt at = Objects.requireNonNull(sized.get(id));
          Rectangle2D.Double place =
              new Rectangle2D.Double(node.getX(), node.getY(), at.place().width, at.place().height);
          boxes.add(new BoxAt(at.box(), place, at.name(), at.below()));
        });
    List<LineAt> lines = new ArrayList<>();
    edges.forEach((line, edge) -> lines.add(placed(line, edge)));
    return new Placed(figure, graph.getWidth(), graph.getHeight(), boxes, lines);
  }

  private static LineAt placed(Line line, ElkEdge edge) {
    List<Point2D.Double> points = new ArrayList<>();
    ElkEdgeSection section = edge.getSections().get(0);
    points.add(new Point2D.Double(section.getStartX(), section.getStartY()));
    for (ElkBendPoint bend : section.getBendPoints()) {
      points.add(new Point2D.Double(bend.getX(), bend.getY()));
    }
    points.add(new Point2D.Double(section.getEndX(), section.getEndY()));
    if (edge.getLabels().isEmpty()) {
      return new LineAt(line, points, null);
    }
    ElkLabel label = edge.getLabels().get(0);
    return new LineAt(
        line,
        points,
        new Rectangle2D.Double(label.getX(), label.getY(), label.getWidth(), label.getHeight()));
  }
}
