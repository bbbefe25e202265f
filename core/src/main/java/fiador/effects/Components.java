package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Strongly connected components: Tarjan's algorithm (1972) with an explicit stack. Components get
 * their numbers in reverse topological order: an edge between two leads to the smaller number.
 * Cost: nodes plus edges.
 */
final class Components {
  private final List<IntArrayList> next;
  private final int[] number;
  private final int[] low;
  private final int[] component;
  private final IntArrayList pending = new IntArrayList();
  private int numbered;
  private int components;

  Components(List<IntArrayList> next) {
    this.next = next;
    this.number = new int[next.size()];
    this.low = new int[next.size()];
    this.component = new int[next.size()];
    Arrays.fill(component, -1);
  }

  /** The component of each node. */
  int[] of() {
    for (int node = 0; node < number.length; node++) {
      if (number[node] == 0) {
        visit(node);
      }
    }
    return component;
  }

  private void visit(int root) {
    IntArrayList path = IntArrayList.of(root);
    IntArrayList place = IntArrayList.of(0);
    open(root);
    while (!path.isEmpty()) {
      int node = path.topInt();
      int at = place.topInt();
      if (at < next.get(node).size()) {
        place.set(place.size() - 1, at + 1);
        int to = next.get(node).getInt(at);
        if (number[to] == 0) {
          open(to);
          path.push(to);
          place.push(0);
        } else if (component[to] < 0) {
          low[node] = Math.min(low[node], number[to]);
        }
      } else {
        path.popInt();
        place.popInt();
        if (!path.isEmpty()) {
          low[path.topInt()] = Math.min(low[path.topInt()], low[node]);
        }
        if (low[node] == number[node]) {
          close(node);
        }
      }
    }
  }

  private void open(int node) {
    number[node] = ++numbered;
    low[node] = numbered;
    pending.push(node);
  }

  private void close(int node) {
    int member;
    do {
      member = pending.popInt();
      component[member] = components;
    } while (member != node);
    components++;
  }
}
