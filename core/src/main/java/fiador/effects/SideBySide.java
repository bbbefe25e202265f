package fiador.effects;

import fiador.estate.Privilege;
import fiador.estate.Tree;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

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

  private record Key(Privilege privilege, int node) {}

  /** Whom a holding is of, with what the other holds there. */
  private record Pair(How first, How second) {}

  private final Tree tree;

  private SideBySide(Tree tree) {
    this.tree = tree;
  }

  /** The lines, by thing and privilege, in the order in which the first holds them. */
  public static List<Line> of(Tree tree, List<Holding> first, List<Holding> second) {
    Map<Key, List<Holding>> one = grouped(first);
    Map<Key, List<Holding>> other = grouped(second);
    Set<Key> keys = new LinkedHashSet<>(one.keySet());
    keys.addAll(other.keySet());
    SideBySide beside = new SideBySide(tree);
    List<Line> lines = new ArrayList<>();
    for (Key key : keys) {
      beside.compare(
          key, one.getOrDefault(key, List.of()), other.getOrDefault(key, List.of()), lines);
    }
    return lines;
  }

  private static Map<Key, List<Holding>> grouped(List<Holding> rows) {
    Map<Key, List<Holding>> groups = new LinkedHashMap<>();
    for (Holding row : rows) {
      Key key = new Key(row.privilege(), row.node());
      groups.computeIfAbsent(key, fresh -> new ArrayList<>()).add(row);
    }
    return groups;
  }

  private void compare(Key key, List<Holding> one, List<Holding> other, List<Line> lines) {
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
