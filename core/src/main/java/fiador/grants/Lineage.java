package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import fiador.estate.Adjacency;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What the columns of views show: rows of a view's column and a column under the view that its
 * value comes from. A view without rows is one whose text could not be followed; a column that
 * shows nothing of any table has a row of its own that says so.
 *
 * @param byView the rows by view
 * @param column the ordinal of each row's column in the view
 * @param under what lies under the view, or {@link #NOTHING}
 * @param from the ordinal of the column there
 * @param asIs 1 for each row whose column shows the other's values as they are; else 0: they are
 *     worked out from them, and may or may not give them away
 */
public record Lineage(Adjacency byView, Ints column, Ints under, Ints from, Ints asIs) {
  /** What {@link #put} laid down. */
  static Lineage take(ColumnSource source) {
    return new Lineage(
        Adjacency.take("shows.by_view", source),
        source.ints("shows.column"),
        source.ints("shows.under"),
        source.ints("shows.from"),
        source.ints("shows.as_is"));
  }

  /** Lays it down. */
  void put(ColumnSink sink) {
    byView.put("shows.by_view", sink);
    sink.ints("shows.column", column);
    sink.ints("shows.under", under);
    sink.ints("shows.from", from);
    sink.ints("shows.as_is", asIs);
  }

  /** Stands for what lies under a column that shows nothing of any table. */
  public static final int NOTHING = -1;

  /** Whether it is known what each column of the view shows. */
  public boolean isKnown(int view) {
    return byView.from(view) < byView.to(view);
  }

  /** Whether a row's column shows the other's values as they are. */
  public boolean isAsIs(int row) {
    return asIs.get(row) != 0;
  }

  /**
   * Where a value comes from.
   *
   * @param node a table, or a view that could not be followed further
   * @param column the ordinal of its column
   */
  public record Base(int node, int column) {}

  /**
   * What a view's columns show at the bottom, through views of views. Cost: the rows of all views
   * on the way.
   *
   * @param only the ordinal of one column, or -1 for all
   * @return whether each stands there as it is everywhere; else something is worked out of it
   */
  public Map<Base, Boolean> bases(int view, int only) {
    Map<Base, Boolean> found = new LinkedHashMap<>();
    Map<Base, Boolean> seen = new HashMap<>();
    Deque<Map.Entry<Base, Boolean>> open = new ArrayDeque<>();
    for (int row : byView.run(view)) {
      if (only < 0 || column.get(row) == only) {
        step(row, true, open);
      }
    }
    while (!open.isEmpty()) {
      Map.Entry<Base, Boolean> next = open.poll();
      Base base = next.getKey();
      if (!isKnown(base.node())) {
        found.merge(base, next.getValue(), Boolean::logicalAnd);
      } else if (!seen.getOrDefault(base, true).equals(next.getValue())
          || !seen.containsKey(base)) {
        seen.put(base, next.getValue());
        for (int row : byView.run(base.node())) {
          if (column.get(row) == base.column()) {
            step(row, next.getValue(), open);
          }
        }
      }
    }
    return found;
  }

  private void step(int row, boolean still, Deque<Map.Entry<Base, Boolean>> open) {
    if (under.get(row) != NOTHING) {
      open.add(Map.entry(new Base(under.get(row), from.get(row)), still && isAsIs(row)));
    }
  }

  Lineage forMoreNodes() {
    return new Lineage(byView.patched(Map.of()), column, under, from, asIs);
  }
}
