package fiador.changes.outcome;

import fiador.changes.steps.Deny;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** Who is denied what after some steps. Cost: the denials on the nodes they speak about. */
final class DenialsAfter {
  private final Ground ground;
  private final Access base;
  private final Map<Place, List<Row>> rows = new LinkedHashMap<>();

  private record Place(int who, int node) {}

  private record Row(long privileges, int covers, int columns) {}

  DenialsAfter(Ground ground) {
    this.ground = ground;
    this.base = ground.base;
  }

  void deny(Deny step) {
    int who = ground.principal(step.who());
    int node = ground.node(step.on());
    ground.touched(who, node);
    List<Row> there = rows(new Place(who, node));
    int columns =
        step.columns().isEmpty()
            ? ColumnSets.WHOLE
            : base.columnSets().intern(ordinals(node, step.columns()));
    if (step.lifted()) {
      lift(there, step.privileges(), columns);
    } else {
      boolean down =
          ground.has(HouseFact.SCHEMA_GRANTS_REACH_DOWN) && !ground.has(HouseFact.DENIALS_STAY);
      int covers = down ? ground.tree.kind(node).inside() : 0;
      there.add(new Row(step.privileges(), covers, columns));
    }
  }

  private int[] ordinals(int node, List<String> names) {
    return names.stream().mapToInt(name -> ground.tree.columnNamed(node, name)).sorted().toArray();
  }

  private void lift(List<Row> there, long privileges, int columns) {
    List<Row> left = new ArrayList<>();
    for (Row row : there) {
      boolean whole = columns == ColumnSets.WHOLE;
      if (whole != (row.columns() == ColumnSets.WHOLE)) {
        left.add(row);
      } else if (whole) {
        left.add(new Row(row.privileges() & ~privileges, row.covers(), columns));
      } else {
        split(row, privileges, columns, left);
      }
    }
    there.clear();
    left.stream().filter(row -> row.privileges() != 0).forEach(there::add);
  }

  /** The columns that it is lifted from, and those that it stays on. */
  private void split(Row row, long privileges, int columns, List<Row> left) {
    Set<Integer> lifted =
        Arrays.stream(base.columnSets().ordinals(columns)).boxed().collect(Collectors.toSet());
    for (boolean hit : new boolean[] {true, false}) {
      int[] part =
          Arrays.stream(base.columnSets().ordinals(row.columns()))
              .filter(ordinal -> lifted.contains(ordinal) == hit)
              .toArray();
      if (part.length > 0) {
        long stays = hit ? row.privileges() & ~privileges : row.privileges();
        left.add(new Row(stays, row.covers(), base.columnSets().intern(part)));
      }
    }
  }

  private List<Row> rows(Place place) {
    return rows.computeIfAbsent(
        place,
        fresh -> {
          List<Row> found = new ArrayList<>();
          Grants denials = base.denials();
          for (int row : denials.byNode().run(place.node())) {
            if (denials.grantee(row) == place.who() && denials.terms(row).isByName()) {
              Terms terms = denials.terms(row);
              found.add(new Row(terms.privileges(), terms.covers(), denials.columns(row)));
              ground.whatIf.lift(row);
            }
          }
          return found;
        });
  }

  /** Hands all of it to the estate to be. */
  void finish() {
    rows.forEach(
        (place, list) ->
            list.forEach(
                row ->
                    ground.whatIf.deny(
                        place.who(),
                        place.node(),
                        new Terms(row.privileges(), 0, row.covers(), Terms.FOREVER),
                        row.columns())));
  }
}
