package fiador.report.page;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.report.pictures.Folding;
import fiador.report.pictures.Layout;
import fiador.report.pictures.Levels;
import fiador.report.pictures.Matrix;
import fiador.report.pictures.Placed;
import fiador.report.pictures.RoleFigure;
import java.awt.geom.Rectangle2D;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The matrix and the picture of a page. */
final class Drawn {
  private final Access access;
  private final Scope scope;
  private final Clock clock;

  Drawn(Access access, Scope scope, Clock clock) {
    this.access = access;
    this.scope = scope;
    this.clock = clock;
  }

  Map<String, Object> matrix() {
    Tree tree = access.tree();
    List<Integer> users = new ArrayList<>();
    scope.people().stream().filter(id -> access.principals().isUser(id)).forEach(users::add);
    List<Integer> schemas = new ArrayList<>();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node) == NodeKind.SCHEMA && !tree.isSystem(node)) {
        schemas.add(node);
      }
    }
    Matrix matrix = new Levels(access, clock, false, scope.things()::get).of(users, schemas, clock);
    Map<String, Object> all = new LinkedHashMap<>();
    all.put("columns", matrix.columns());
    all.put("rows", matrix.rows().stream().map(Drawn::row).toList());
    all.put("notes", matrix.notes());
    return all;
  }

  private static List<Object> row(Matrix.Row row) {
    return List.of(
        row.names(),
        row.cells().stream()
            .map(
                cell ->
                    List.of(
                        cell.level().ordinal(),
                        cell.state().ordinal(),
                        cell.on(),
                        cell.of(),
                        cell.limited() ? 1 : 0))
            .toList());
  }

  Map<String, Object> figure() {
    Placed placed =
        Layout.place(
            Folding.toTouch(
                RoleFigure.within(
                    access, scope.people()::get, scope.things()::get, clock.instant())));
    Map<String, Integer> numbers = new HashMap<>();
    List<Object> boxes = new ArrayList<>();
    for (Placed.BoxAt at : placed.boxes()) {
      numbers.put(at.box().id(), boxes.size());
      Rectangle2D.Double place = at.place();
      boxes.add(
          List.of(
              round(place.x),
              round(place.y),
              round(place.width),
              round(place.height),
              at.name(),
              at.below(),
              at.box().shape().ordinal(),
              at.box().members()));
    }
    List<Object> lines = new ArrayList<>();
    for (Placed.LineAt at : placed.lines()) {
      lines.add(
          List.of(
              numbers.getOrDefault(at.line().from(), 0),
              numbers.getOrDefault(at.line().to(), 0),
              at.line().manner().ordinal(),
              at.line().label(),
              at.points().stream().map(point -> List.of(round(point.x), round(point.y))).toList(),
              at.label() == null ? 0 : List.of(round(at.label().x), round(at.label().y))));
    }
    Map<String, Object> all = new LinkedHashMap<>();
    all.put("width", Math.ceil(placed.width()));
    all.put("height", Math.ceil(placed.height()));
    all.put("boxes", boxes);
    all.put("lines", lines);
    all.put("notes", placed.figure().notes());
    return all;
  }

  private static double round(double value) {
    return Math.round(value * 10) / 10.0;
  }
}
