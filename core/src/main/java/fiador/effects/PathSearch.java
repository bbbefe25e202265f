package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntCollection;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.longs.LongOpenHashSet;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import org.jspecify.annotations.Nullable;

/**
 * Chains of memberships from a user to principals that have a source.
 *
 * <p>A chain is live when every hop is on without switching, and on request when it is some hops of
 * switching followed by hops that are on; chains are walks in a {@link ChainGraph}. The nearest
 * ones come first: a best-first search whose estimate, the exact distance to a source, is known
 * from a breadth-first search backwards (Hart, Nilsson and Raphael 1968). Cost of {@code n} chains:
 * n times their length and branching, whatever the number of all chains.
 *
 * <p>The number of chains is counted on the component graph of that graph (strongly connected
 * components by Tarjan 1972, without recursion), exactly, as a big integer: principals in a cycle
 * count as one.
 */
final class PathSearch {
  private static final int KINDS = 2;

  private final ChainGraph graph;
  private final Ends ends;

  /** Where chains may end, each with what it has there: passed on, its own, or both. */
  private final IntArrayList accepting = new IntArrayList();

  private int @Nullable [] distance;

  /**
   * @param ends where chains may end
   */
  PathSearch(ChainGraph graph, Ends ends) {
    this.graph = graph;
    this.ends = ends;
    for (int principal : ends.all()) {
      for (int i : graph.of(principal)) {
        int has = (accepted(i, false) > 0 ? 1 : 0) | (accepted(i, true) > 0 ? 2 : 0);
        if (has > 0) {
          accepting.add(i << KINDS | has);
        }
      }
    }
  }

  /** What the chains lead to: how many things somebody has there. */
  interface Ends {
    /** How many sources a principal has that pass on to members. */
    int countPassedOn(int principal);

    /** How many it has that only count for itself. */
    int countOwn(int principal);

    /** Who has any, and perhaps some who have none. */
    IntCollection all();
  }

  /**
   * A chain that ends in sources.
   *
   * @param principals from the user to the one that has the source
   * @param live whether every hop is on without switching
   * @param ownPower whether it is the last one's own power that counts, not what it passes on
   */
  record Chain(int[] principals, boolean live, boolean ownPower) {}

  /** How many sources a chain that ends here has. */
  private int accepted(int index, boolean ownPower) {
    int principal = graph.principal(index);
    return ownPower
        ? graph.isSwitched(index) ? ends.countOwn(principal) : 0
        : ends.countPassedOn(principal);
  }

  private int[] distances() {
    int[] found = new int[graph.size()];
    Arrays.fill(found, Integer.MAX_VALUE);
    IntArrayList queue = new IntArrayList();
    for (int i = 0; i < accepting.size(); i++) {
      found[accepting.getInt(i) >> KINDS] = 0;
      queue.add(accepting.getInt(i) >> KINDS);
    }
    for (int at = 0; at < queue.size(); at++) {
      IntArrayList before = graph.previous(queue.getInt(at));
      for (int i = 0; i < before.size(); i++) {
        if (found[before.getInt(i)] == Integer.MAX_VALUE) {
          found[before.getInt(i)] = found[queue.getInt(at)] + 1;
          queue.add(before.getInt(i));
        }
      }
    }
    return found;
  }

  private record Partial(int index, Partial before, int length, int estimate, boolean complete) {
    boolean holds(int principal, ChainGraph graph) {
      for (Partial at = this; at != null; at = at.before) {
        if (graph.principal(at.index) == principal) {
          return true;
        }
      }
      return false;
    }
  }

  /**
   * The nearest chains, at most {@code limit}, shortest first. The very nearest is remembered with
   * the graph: much of what somebody holds comes from the same few.
   */
  List<Chain> nearest(int limit) {
    return limit > 1 ? search(limit) : graph.nearest(accepting, () -> search(1));
  }

  private List<Chain> search(int limit) {
    distance = distance == null ? distances() : distance;
    List<Chain> chains = new ArrayList<>();
    PriorityQueue<Partial> open =
        new PriorityQueue<>(
            Comparator.comparingInt(Partial::estimate)
                .thenComparing(Comparator.comparingInt(Partial::length).reversed()));
    // the very nearest one meets nobody twice, it would be nearer without the circle
    boolean circular = limit > 1 && graph.isCircular();
    if (distance[0] < Integer.MAX_VALUE) {
      open.add(new Partial(0, null, 0, distance[0], false));
    }
    while (!open.isEmpty() && chains.size() < limit) {
      Partial best = open.poll();
      if (best.complete()) {
        addChains(best, chains);
        continue;
      }
      if (distance[best.index()] == 0) {
        open.add(new Partial(best.index(), best.before(), best.length(), best.length(), true));
      }
      IntArrayList following = graph.next(best.index());
      for (int i = 0; i < following.size(); i++) {
        int to = following.getInt(i);
        boolean again = circular && best.holds(graph.principal(to), graph);
        if (distance[to] < Integer.MAX_VALUE && !again) {
          int length = best.length() + 1;
          open.add(new Partial(to, best, length, length + distance[to], false));
        }
      }
    }
    return chains;
  }

  private void addChains(Partial end, List<Chain> chains) {
    int[] principals = new int[end.length() + 1];
    int i = end.length();
    for (Partial at = end; at != null; at = at.before()) {
      principals[i--] = graph.principal(at.index());
    }
    boolean live = graph.isLive(end.index());
    if (accepted(end.index(), false) > 0) {
      chains.add(new Chain(principals, live, false));
    }
    if (accepted(end.index(), true) > 0) {
      chains.add(new Chain(principals, end.length() == 0, true));
    }
  }

  /** How many paths there are: chains times the sources at their ends. */
  BigInteger count() {
    int[] component = new Components(graph.edges()).of();
    int components = 0;
    for (int c : component) {
      components = Math.max(components, c + 1);
    }
    BigInteger[] ways = new BigInteger[components];
    List<IntOpenHashSet> into = new ArrayList<>();
    BigInteger[] ends = new BigInteger[components];
    for (int c = 0; c < components; c++) {
      into.add(new IntOpenHashSet());
      ends[c] = BigInteger.ZERO;
    }
    LongOpenHashSet once = new LongOpenHashSet();
    for (int at = 0; at < graph.size(); at++) {
      int from = component[at];
      ends[from] = ends[from].add(BigInteger.valueOf(accepted(at, false) + accepted(at, true)));
      for (int i = 0; i < graph.next(at).size(); i++) {
        int to = component[graph.next(at).getInt(i)];
        if (from != to && once.add(((long) from << 32) | to)) {
          into.get(from).add(to);
        }
      }
    }
    // components are numbered so that edges lead from higher to lower numbers
    for (int c = 0; c < components; c++) {
      ways[c] = ends[c];
      for (int to : into.get(c).toIntArray()) {
        ways[c] = ways[c].add(ways[to]);
      }
    }
    return ways[component[0]];
  }
}
