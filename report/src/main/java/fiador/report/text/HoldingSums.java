package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.report.shown.Shown;
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
    private int nodes;
    private int last = -1;
    private long privileges;

    void add(Holding row) {
      nodes += row.node() == last ? 0 : 1;
      last = row.node();
      privileges |= row.privilege().bit();
    }
  }

  /**
   * Lines of a place, the state, what is held, and on how much.
   *
   * @param rows by node
   */
  List<String[]> lines(List<Holding> rows) {
    Map<Place, Sum> sums = new LinkedHashMap<>();
    Place place = new Place(-1, NodeKind.SERVER, State.LIVE);
    Sum sum = new Sum();
    int last = -1;
    for (Holding row : rows) {
      // most rows are about what the one before was about, or something beside it
      if (row.node() != last || row.state() != place.state()) {
        Place next = place(row);
        if (!next.equals(place)) {
          place = next;
          sum = sums.computeIfAbsent(place, fresh -> new Sum());
        }
        last = row.node();
      }
      sum.add(row);
    }
    List<String[]> lines = new ArrayList<>();
    sums.forEach(
        (at, held) ->
            lines.add(
                new String[] {
                  shown.node(at.node()),
                  States.of(at.state()),
                  at.kind().isObject() ? many(held.nodes, at.kind().text()) : "itself",
                  PrivilegeSet.text(held.privileges)
                }));
    return lines;
  }

  private Place place(Holding row) {
    Tree tree = access.tree();
    NodeKind kind = tree.kind(row.node());
    int in = kind.isObject() ? tree.enclosing(row.node(), NodeKind.SCHEMA) : row.node();
    return new Place(in, kind, row.state());
  }

  private static String many(int count, String kind) {
    return count + " " + kind + (count == 1 ? "" : "s");
  }
}
