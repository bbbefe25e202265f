package fiador.repairs;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.LongArrayList;
import java.util.Arrays;
import java.util.BitSet;

/**
 * A minimum cut between two nodes of a directed graph: the lightest set of arcs without which there
 * is no way from the one to the other. By the maximum flow that equals it (Ford and Fulkerson
 * 1956), found with Dinitz's algorithm (1970) on an explicit stack. Cost: at most nodes squared
 * times arcs; on graphs of memberships, which are shallow, a few times the arcs.
 */
final class MinimumCut {
  /** The weight of an arc that must not be cut. */
  static final long NEVER = Long.MAX_VALUE / 4;

  private final IntArrayList from = new IntArrayList();
  private final IntArrayList to = new IntArrayList();
  private final LongArrayList weight = new LongArrayList();
  private int nodes;

  /** Adds an arc; gives its number. */
  int arc(int tail, int head, long arcWeight) {
    from.add(tail);
    to.add(head);
    weight.add(Math.min(arcWeight, NEVER));
    nodes = Math.max(nodes, Math.max(tail, head) + 1);
    return from.size() - 1;
  }

  /** Changes the weight of an arc; gives what it was. */
  long reweigh(int arc, long arcWeight) {
    return weight.set(arc, arcWeight);
  }

  /**
   * What a cut is made of.
   *
   * @param arcs the arcs by number; empty when there was no way to begin with
   * @param weight what they weigh together; at least {@link #NEVER} when no cut is possible
   */
  record Cut(IntArrayList arcs, long weight) {
    boolean isPossible() {
      return weight < NEVER;
    }
  }

  /** A lightest cut; of several the one nearest to the source. */
  Cut between(int source, int sink) {
    Flow flow = new Flow(Math.max(nodes, Math.max(source, sink) + 1));
    long total = 0;
    while (total < NEVER && flow.level(source, sink)) {
      total += flow.block(source, sink);
    }
    IntArrayList cut = new IntArrayList();
    for (int arc = 0; total < NEVER && arc < from.size(); arc++) {
      boolean crosses = flow.level[from.getInt(arc)] >= 0 && flow.level[to.getInt(arc)] < 0;
      if (crosses && weight.getLong(arc) > 0) {
        cut.add(arc);
      }
    }
    return new Cut(cut, Math.min(total, NEVER));
  }

  /** Arc {@code a} is residual {@code 2 a}, and back {@code 2 a + 1}. */
  private final class Flow {
    final int[] level;
    private final int[] first;
    private final int[] next;
    private final long[] room;
    private final int[] at;

    Flow(int size) {
      level = new int[size];
      first = new int[size];
      at = new int[size];
      next = new int[2 * from.size()];
      room = new long[2 * from.size()];
      Arrays.fill(first, -1);
      for (int arc = 0; arc < from.size(); arc++) {
        room[2 * arc] = weight.getLong(arc);
        link(2 * arc, from.getInt(arc));
        link(2 * arc + 1, to.getInt(arc));
      }
    }

    private void link(int residual, int tail) {
      next[residual] = first[tail];
      first[tail] = residual;
    }

    private int head(int residual) {
      return (residual & 1) == 0 ? to.getInt(residual / 2) : from.getInt(residual / 2);
    }

    /** How far each node is from the source over arcs with room; whether the sink is reached. */
    boolean level(int source, int sink) {
      Arrays.fill(level, -1);
      level[source] = 0;
      IntArrayList open = IntArrayList.of(source);
      for (int i = 0; i < open.size(); i++) {
        int node = open.getInt(i);
        for (int arc = first[node]; arc >= 0; arc = next[arc]) {
          if (room[arc] > 0 && level[head(arc)] < 0) {
            level[head(arc)] = level[node] + 1;
            open.add(head(arc));
          }
        }
      }
      System.arraycopy(first, 0, at, 0, first.length);
      return level[sink] >= 0;
    }

    /** Fills shortest ways until each has an arc without room. */
    long block(int source, int sink) {
      long total = 0;
      IntArrayList way = new IntArrayList();
      int node = source;
      BitSet dead = new BitSet();
      while (true) {
        if (node == sink) {
          long least = NEVER;
          for (int arc : way) {
            least = Math.min(least, room[arc]);
          }
          for (int arc : way) {
            room[arc] -= least;
            room[arc ^ 1] += least;
          }
          total += least;
          if (total >= NEVER) {
            return NEVER;
          }
          way.clear();
          node = source;
          continue;
        }
        int arc = at[node];
        while (arc >= 0
            && (room[arc] <= 0 || level[head(arc)] != level[node] + 1 || dead.get(head(arc)))) {
          arc = next[arc];
        }
        at[node] = arc;
        if (arc >= 0) {
          way.add(arc);
          node = head(arc);
        } else if (way.isEmpty()) {
          return total;
        } else {
          dead.set(node);
          int back = way.popInt();
          node = head(back ^ 1);
        }
      }
    }
  }
}
