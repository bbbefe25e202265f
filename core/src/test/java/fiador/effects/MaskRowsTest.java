package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Rows of bits, against maps of them: while they grow, and when they are used again. */
class MaskRowsTest {
  private static final int BLOCKS = 2000;
  private static final int NUMBERS = 64;

  private final Random random = new Random(7);
  private final MaskRows rows = new MaskRows(1);
  private final Map<Integer, Long> wanted = new HashMap<>();
  private final Map<Integer, Long> beside = new HashMap<>();

  private void add(int numbers, int blocks) {
    int block = random.nextInt(blocks);
    long nodes = random.nextLong();
    nodes &= -1L << random.nextInt(Long.SIZE);
    if (random.nextInt(10) == 0) {
      rows.add(block, MaskRows.reserved(0), nodes);
      beside.merge(block, nodes, (one, other) -> one | other);
    } else {
      int number = random.nextInt(numbers);
      rows.add(block, number, nodes);
      wanted.merge(block * NUMBERS + number, nodes, (one, other) -> one | other);
    }
  }

  private void check() {
    for (int block = 0; block < BLOCKS; block++) {
      long among = random.nextLong();
      int count = 0;
      for (int number = 0; number < NUMBERS; number++) {
        long held = wanted.getOrDefault(block * NUMBERS + number, 0L);
        assertThat(rows.get(block, number)).isEqualTo(held);
        count += Long.bitCount(held & among);
      }
      assertThat(rows.count(block, among)).as("without the row beside").isEqualTo(count);
      assertThat(rows.get(block, MaskRows.reserved(0))).isEqualTo(beside.getOrDefault(block, 0L));
    }
  }

  @Test
  void whatWasAddedIsThereAlsoAfterGrowing() {
    // first few rows and blocks, then more of one or the other, to the last there can be
    int[][] sizes = {{2, 10}, {2, 700}, {9, 700}, {NUMBERS, 900}, {NUMBERS, BLOCKS}};
    check();
    for (int[] size : sizes) {
      for (int i = 0; i < 3000; i++) {
        add(size[0], size[1]);
      }
      check();
    }
  }

  @Test
  void clearingForgetsTheFirstBlocksAndNoOthers() {
    for (int i = 0; i < 5000; i++) {
      add(12, 1000);
    }
    rows.clear(400);
    wanted.keySet().removeIf(at -> at / NUMBERS < 400);
    beside.keySet().removeIf(block -> block < 400);
    check();
    rows.clear(BLOCKS);
    wanted.clear();
    beside.clear();
    check();
    add(NUMBERS, BLOCKS);
    check();
  }
}
