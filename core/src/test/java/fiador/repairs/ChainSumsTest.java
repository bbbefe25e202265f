package fiador.repairs;

import static org.assertj.core.api.Assertions.assertThat;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ChainSumsTest {
  private int looked;

  private static IntOpenHashSet reached(int[][] leads, int from) {
    IntOpenHashSet seen = new IntOpenHashSet(new int[] {from});
    IntArrayList open = IntArrayList.of(from);
    while (!open.isEmpty()) {
      for (int to : leads[open.popInt()]) {
        if (seen.add(to)) {
          open.add(to);
        }
      }
    }
    return seen;
  }

  private long whole(int[][] leads, int from) {
    looked++;
    return reached(leads, from).intStream().mapToLong(id -> id + 1).sum();
  }

  private ChainSums sums(int[][] leads) {
    return new ChainSums(
        id -> leads[id].length == 1 ? leads[id][0] : ChainSums.NO_SINGLE,
        id -> id + 1,
        id -> whole(leads, id));
  }

  @Test
  void areWhatLookingAtAllOfItGives() {
    Random random = new Random(7);
    for (int round = 0; round < 500; round++) {
      int[][] leads = new int[1 + random.nextInt(12)][];
      for (int i = 0; i < leads.length; i++) {
        int above = i + 1;
        leads[i] =
            above == leads.length
                ? new int[0]
                : random.ints(random.nextInt(3), above, leads.length).distinct().toArray();
      }
      ChainSums sums = sums(leads);
      for (int i = 0; i < leads.length; i++) {
        int from = random.nextInt(leads.length);
        assertThat(sums.of(from)).isEqualTo(whole(leads, from));
      }
    }
  }

  @Test
  void aRingIsCountedOnceAround() {
    int[][] ring = {{1}, {2}, {0}, {0}};
    ChainSums sums = sums(ring);
    assertThat(sums.of(1)).isEqualTo(6);
    assertThat(sums.of(2)).isEqualTo(6);
    assertThat(sums.of(3)).isEqualTo(10);
  }

  @Test
  void aChainIsLookedAtOnce() {
    int[][] leads = new int[1000][];
    for (int i = 0; i < leads.length; i++) {
      leads[i] = i + 1 < leads.length ? new int[] {i + 1} : new int[0];
    }
    ChainSums sums = sums(leads);
    assertThat(sums.of(0)).isEqualTo(500_500);
    assertThat(sums.of(500)).isEqualTo(375_250);
    assertThat(looked).isEqualTo(1);
  }
}
