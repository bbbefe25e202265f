package fiador.effects;

import java.util.Arrays;

/**
 * Bits of nodes, 64 to a block, in several rows that have numbers. Blocks are said by where they
 * stand in a list. All that one has in its rows lies together, so that going through them costs one
 * look into memory each, not one a row.
 */
final class MaskRows {
  /** As many numbers as there are, at most, with those of the reserved rows behind them. */
  private static final int NUMBERS = Long.SIZE;

  /**
   * By number the place of a row beside the others, given in the order in which they are met: of
   * the many there could be, few are used. Below 0 for none.
   */
  private final byte[] laneOf;

  private final int reserved;
  private int lanes;
  private int width = 4;
  private int room = 256;
  private long[] longs = {};

  /**
   * Rows with nothing in them.
   *
   * @param reserved how many rows there are beside the others that count with none of them
   */
  MaskRows(int reserved) {
    this.reserved = reserved;
    this.laneOf = new byte[NUMBERS + reserved];
    Arrays.fill(laneOf, (byte) -1);
    for (int i = 0; i < reserved; i++) {
      addLane(reserved(i));
    }
  }

  /** The number of a reserved row. */
  static int reserved(int which) {
    return NUMBERS + which;
  }

  /** Adds nodes of a block to a row. */
  void add(int at, int number, long nodes) {
    if (laneOf[number] < 0) {
      addLane(number);
    }
    if (at >= room) {
      room = Math.max(at + 1, 2 * room);
      longs = Arrays.copyOf(longs, room * width);
    }
    longs[at * width + laneOf[number]] |= nodes;
  }

  private void addLane(int number) {
    laneOf[number] = (byte) lanes++;
    if (lanes == 1) {
      longs = new long[room * width];
    } else if (lanes > width) {
      long[] wider = new long[room * 2 * width];
      for (int at = 0; at < room; at++) {
        System.arraycopy(longs, at * width, wider, at * 2 * width, width);
      }
      width *= 2;
      longs = wider;
    }
  }

  /** The nodes that a row has in a block. */
  long get(int at, int number) {
    int lane = laneOf[number];
    return lane < 0 || at >= room ? 0 : longs[at * width + lane];
  }

  /** How many of some nodes of a block are in the rows, each as often as it is in one. */
  int count(int at, long nodes) {
    if (at >= room) {
      return 0;
    }
    int count = 0;
    int from = at * width;
    for (int lane = reserved; lane < lanes; lane++) {
      count += Long.bitCount(longs[from + lane] & nodes);
    }
    return count;
  }

  /** Forgets what the first blocks have. */
  void clear(int many) {
    Arrays.fill(longs, 0, lanes == 0 ? 0 : Math.min(many, room) * width, 0);
  }
}
