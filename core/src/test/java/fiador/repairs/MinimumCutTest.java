package fiador.repairs;

import static org.assertj.core.api.Assertions.assertThat;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

final class MinimumCutTest {
  private static final int NODES = 6;
  private static final int ARCS = 11;

  private final int[] from = new int[ARCS];
  private final int[] to = new int[ARCS];
  private final long[] weight = new long[ARCS];

  private boolean reaches(int without) {
    IntArrayList open = IntArrayList.of(0);
    int seen = 1;
    while (!open.isEmpty()) {
      int node = open.popInt();
      for (int arc = 0; arc < ARCS; arc++) {
        boolean there = (without >> arc & 1) == 0 && from[arc] == node;
        if (there && (seen >> to[arc] & 1) == 0) {
          seen |= 1 << to[arc];
          open.add(to[arc]);
        }
      }
    }
    return (seen & 2) != 0;
  }

  private long lightest() {
    long best = MinimumCut.NEVER;
    for (int set = 0; set < 1 << ARCS; set++) {
      long sum = 0;
      for (int arc = 0; arc < ARCS; arc++) {
        sum = Math.min(MinimumCut.NEVER, sum + (set >> arc & 1) * weight[arc]);
      }
      if (sum < best && !reaches(set)) {
        best = sum;
      }
    }
    return best;
  }

  @Property(tries = 400)
  void noSetOfArcsThatSeparatesIsLighter(@ForAll long seed) {
    Random random = new Random(seed);
    MinimumCut graph = new MinimumCut();
    for (int arc = 0; arc < ARCS; arc++) {
      from[arc] = random.nextInt(NODES);
      to[arc] = random.nextInt(NODES);
      weight[arc] = random.nextInt(6) == 0 ? MinimumCut.NEVER : 1 + random.nextInt(9);
      graph.arc(from[arc], to[arc], weight[arc]);
    }
    MinimumCut.Cut cut = graph.between(0, 1);
    assertThat(cut.weight()).isEqualTo(lightest());
    if (cut.isPossible()) {
      int set = 0;
      long sum = 0;
      for (int arc : cut.arcs()) {
        set |= 1 << arc;
        sum += weight[arc];
      }
      assertThat(sum).isEqualTo(cut.weight());
      assertThat(reaches(set)).isFalse();
    }
  }

  @Test
  void aLongChainNeedsNoDeepStack() {
    MinimumCut graph = new MinimumCut();
    graph.arc(0, 2, 5);
    for (int node = 2; node < 100_000; node++) {
      graph.arc(node, node + 1, 5);
    }
    graph.arc(100_000, 1, 3);
    assertThat(graph.between(0, 1).weight()).isEqualTo(3);
  }
}
