package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A long list of holdings by schema: what may be done there, and on how many things. */
final class HoldingSums {
  private final Access access;
  private final Shown shown;

  HoldingSums(Access access, Shown shown) {
    this.access = access;
    this.shown = shown;
  }

  /** What is put together. */
  private record Place(int node, NodeKind kind, State state) {}

  private static final class Sum {
    final IntOpenHashSet nodes = new IntOpenHashSet();
    long privileges;
  }

  /** Lines of a place, the state, what is held, and on how much. */
  List<String[]> lines(List<Holding> rows) {
    Tree tree = access.tree();
    Map<Place, Sum> sums = new LinkedHashMap<>();
    for (Holding row : rows) {
      NodeKind kind = tree.kind(row.node());
      int in = kind.isObject() ? tree.enclosing(row.node(), NodeKind.SCHEMA) : row.node();
      Sum sum = sums.computeIfAbsent(new Place(in, kind, row.state()), fresh -> new Sum());
      sum.nodes.add(row.node());
      sum.privileges |= row.privilege().bit();
    }
    List<String[]> lines = new ArrayList<>();
    sums.forEach(
        (place, sum) ->
            lines.add(
                new String[] {
                  shown.node(place.node()),
                  States.of(place.state()),
                  place.kind().isObject() ? many(sum.nodes.size(), place.kind().text()) : "itself",
                  PrivilegeSet.text(sum.privileges)
                }));
    return lines;
  }

  private static String many(int count, String kind) {
    return count + " " + kind + (count == 1 ? "" : "s");
  }
}
