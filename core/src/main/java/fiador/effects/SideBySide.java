package fiador.effects;

import fiador.estate.Privilege;
import fiador.estate.Tree;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What two users or roles hold, beside each other: where things have columns, column by column.
 * Cost: their holdings.
 */
public final class SideBySide {
  /**
   * One thing that at least one of them holds.
   *
   * @param columns ordinals of the columns it is about, or null for the whole object
   * @param first how the first holds it; null where they do not
   * @param second how the second holds it
   */
  public record Line(Privilege privilege, int node, BitSet columns, How first, How second) {
    /** Whether both hold it in the same way. */
    public boolean isAlike() {
      return first != null && first.equals(second);
    }
  }

  /** How somebody holds a thing. */
  public record How(State state, boolean grantable) {}

  private static final Comparator<Holding> BY_THING =
      Comparator.comparingInt(Holding::node).thenComparing(Holding::privilege);

  /** Whom a holding is of, with what the other holds there. */
  private record Pair(How first, How second) {}

  private final Tree tree;

  private SideBySide(Tree tree) {
    this.tree = tree;
  }

  /** The lines, by thing and privilege. */
  public static List<Line> of(Tree tree, List<Holding> first, List<Holding> second) {
    // they come in this order already, and then sorting looks at each but once
    List<Holding> one = new ArrayList<>(first);
    List<Holding> other = new ArrayList<>(second);
    one.sort(BY_THING);
    other.sort(BY_THING);
    SideBySide beside = new SideBySide(tree);
    List<Line> lines = new ArrayList<>(Math.max(one.size(), other.size()));
    int i = 0;
    int j = 0;
    while (i < one.size() || j < other.size()) {
      Holding next = next(one, i, other, j);
      int iEnd = end(one, i, next);
      int jEnd = end(other, j, next);
      beside.compare(next, one.subList(i, iEnd), other.subList(j, jEnd), lines);
      i = iEnd;
      j = jEnd;
    }
    return lines;
  }

  private static Holding next(List<Holding> one, int i, List<Holding> other, int j) {
    if (i == one.size() || j == other.size()) {
      return i == one.size() ? other.get(j) : one.get(i);
    }
    boolean first = BY_THING.compare(one.get(i), other.get(j)) <= 0;
    return first ? one.get(i) : other.get(j);
  }

  /** Behind the rows about the same. */
  private static int end(List<Holding> rows, int from, Holding about) {
    int end = from;
    while (end < rows.size() && BY_THING.compare(rows.get(end), about) == 0) {
      end++;
    }
    return end;
  }

  private void compare(Holding key, List<Holding> one, List<Holding> other, List<Line> lines) {
    boolean whole =
        one.stream().allMatch(row -> row.columns() == null)
            && other.stream().allMatch(row -> row.columns() == null);
    if (whole) {
      Pair pair = new Pair(best(one, -1), best(other, -1));
      lines.add(new Line(key.privilege(), key.node(), null, pair.first(), pair.second()));
      return;
    }
    Map<Pair, BitSet> alike = new LinkedHashMap<>();
    for (int column = 0; column < tree.columns(key.node()); column++) {
      Pair pair = new Pair(best(one, column), best(other, column));
      if (pair.first() != null || pair.second() != null) {
        alike.computeIfAbsent(pair, fresh -> new BitSet()).set(column);
      }
    }
    alike.forEach(
        (pair, columns) ->
            lines.add(new Line(key.privilege(), key.node(), columns, pair.first(), pair.second())));
  }

  /** The best way one holds a column, or the whole below zero; null where they do not. */
  private static How best(List<Holding> rows, int column) {
    How best = null;
    boolean grantable = false;
    for (Holding row : rows) {
      boolean about = column < 0 || row.columns() == null || row.columns().get(column);
      if (about) {
        grantable |= row.grantable();
        boolean better = best == null || row.state().compareTo(best.state()) < 0;
        best = better ? new How(row.state(), row.grantable()) : best;
      }
    }
    return best == null ? null : new How(best.state(), grantable);
  }
}
