package fiador.policies;

import fiador.columns.Ints;
import fiador.estate.Adjacency;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Lineage;
import fiador.grants.Reads;
import fiador.grants.Sights;
import it.unimi.dsi.fastutil.ints.IntLinkedOpenHashSet;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The views and routines through which a table with policies is read with somebody else's rights,
 * so that the policies do not count, and what each shows of it: through views of views, column by
 * column where the text of a view could be followed. Cost: what lies above the table.
 */
final class Openings {
  private static final IntLinkedOpenHashSet NONE = new IntLinkedOpenHashSet();

  private final Access access;
  private final Tree tree;
  private final Reads reads;
  private final Seeing seeing;

  /** What reads a node, by the node. */
  private final Map<Integer, IntLinkedOpenHashSet> readers = new HashMap<>();

  Openings(Access access, Seeing seeing) {
    this.access = access;
    this.tree = access.tree();
    this.reads = access.reads();
    this.seeing = seeing;
    read(reads.byView(), reads.under());
    // a catalog may leave out what the text of a view shows
    read(reads.lineage().byView(), reads.lineage().under());
  }

  private void read(Adjacency byView, Ints under) {
    // without an array for each node, of which there may be millions
    for (int reader = 0; reader < tree.size() && under.size() > 0; reader++) {
      for (int at = byView.from(reader); at < byView.to(reader); at++) {
        int below = under.get(byView.row(at));
        if (below != Lineage.NOTHING) {
          readers.computeIfAbsent(below, none -> new IntLinkedOpenHashSet()).add(reader);
        }
      }
    }
  }

  /**
   * Something that opens a table.
   *
   * @param path from it down to the table, the shortest way
   * @param flow what it shows of the table
   */
  record Opening(List<Integer> path, Flow flow) {
    int node() {
      return path.get(0);
    }
  }

  /**
   * All that opens a table, the nearest first.
   *
   * @param guard the table, or the view through which it is meant to be read
   */
  List<Opening> of(int table, int guard) {
    List<Opening> from = new ArrayList<>();
    from.add(new Opening(List.of(table), Flow.ofTable(tree, table)));
    if (guard != table) {
      // it has the table's columns, and shows them safely to all but what stores them
      from.add(new Opening(List.of(guard, table), Flow.ofTable(tree, table)));
    }
    return above(
        from,
        (reader, under) -> {
          boolean stored = tree.kind(reader) == NodeKind.MATERIALIZED_VIEW;
          boolean safe = under.node() == guard && guard != table && !stored;
          return reader != guard && !safe && passes(reader, under, table);
        });
  }

  /** All that shows a table with somebody else's rights, whatever policies do to it on the way. */
  List<Opening> all(int table) {
    return above(
        List.of(new Opening(List.of(table), Flow.ofTable(tree, table))),
        (reader, under) -> !tree.isSystem(reader));
  }

  private interface Passing {
    boolean goesOn(int reader, Opening under);
  }

  private List<Opening> above(List<Opening> from, Passing passing) {
    Map<Integer, Opening> found = new LinkedHashMap<>();
    Deque<Opening> open = new ArrayDeque<>(from);
    int table = from.get(0).node();
    while (!open.isEmpty()) {
      Opening under = open.poll();
      for (int reader : readers.getOrDefault(under.node(), NONE)) {
        if (reader == table || !passing.goesOn(reader, under)) {
          continue;
        }
        boolean fresh = !found.containsKey(reader);
        Opening above =
            found.computeIfAbsent(
                reader, none -> new Opening(longer(reader, under.path()), flowOf(reader)));
        // what was seen before is looked at again where another way shows more
        if (flow(under, above) || fresh) {
          open.add(above);
        }
      }
    }
    // what reads as its asker opens nothing by itself, but what reads it in turn may
    return found.values().stream()
        .filter(opening -> !tree.is(opening.node(), NodeFact.INVOKER))
        .toList();
  }

  private static List<Integer> longer(int first, List<Integer> path) {
    List<Integer> longer = new ArrayList<>(path.size() + 1);
    longer.add(first);
    longer.addAll(path);
    return List.copyOf(longer);
  }

  private Flow flowOf(int reader) {
    return Flow.empty(tree.kind(reader) == NodeKind.ROUTINE ? 1 : tree.columns(reader));
  }

  private boolean flow(Opening under, Opening above) {
    boolean news = false;
    Sights.Kept kept = access.sights().kept().get(above.node());
    if (kept != null && kept.table() == under.node()) {
      return sameNames(under, above);
    }
    Lineage lineage = reads.lineage();
    boolean fromRoutine = tree.kind(under.node()) == NodeKind.ROUTINE;
    if (lineage.isKnown(above.node()) && !fromRoutine) {
      for (int row : lineage.byView().run(above.node())) {
        if (lineage.under().get(row) == under.node()) {
          news |=
              above
                  .flow()
                  .add(
                      lineage.column().get(row),
                      under.flow(),
                      lineage.from().get(row),
                      lineage.isAsIs(row));
        }
      }
      return news;
    }
    for (int row : reads.byView().run(above.node())) {
      if (reads.under().get(row) != under.node()) {
        continue;
      }
      if (reads.columns().get(row) == ColumnSets.WHOLE) {
        for (int column = 0; column < under.flow().columns(); column++) {
          news |= above.flow().addToAll(under.flow(), column);
        }
      } else {
        for (int column : access.columnSets().ordinals(reads.columns().get(row))) {
          news |= above.flow().addToAll(under.flow(), column);
        }
      }
    }
    return news;
  }

  /** What was made from policies has the table's columns under their names. */
  private boolean sameNames(Opening under, Opening above) {
    boolean news = false;
    for (int column = 0; column < tree.columns(above.node()); column++) {
      int from = tree.columnNamed(under.node(), tree.column(above.node(), column));
      news |= from >= 0 && above.flow().add(column, under.flow(), from, true);
    }
    return news;
  }

  /** Whether what a reader gets from there comes without the table's policies. */
  private boolean passes(int reader, Opening under, int table) {
    Sights.Kept kept = access.sights().kept().get(reader);
    // what shows a view of the table safely has that view's policies, and not the table's
    if (tree.isSystem(reader) || kept != null && kept.table() == table) {
      return false;
    }
    boolean asAsker = tree.is(reader, NodeFact.INVOKER);
    boolean othersRights =
        under.path().stream().anyMatch(node -> node != table && !tree.is(node, NodeFact.INVOKER));
    if (othersRights || asAsker) {
      return true;
    }
    Sights.Filter filter = access.sights().filters().get(table);
    int owner = tree.owner(reader);
    // what was stored is not filtered again when it is read
    boolean stored = tree.kind(reader) == NodeKind.MATERIALIZED_VIEW;
    if (filter == null || !filter.enabled() || owner < 0 || stored) {
      return true;
    }
    Seeing.Answer answer = seeing.of(owner, table);
    // rules that ask for the session's user go on counting under somebody else's view
    return answer == null || answer.exempt() != null;
  }
}
