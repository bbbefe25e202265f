package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.LongArrayList;

/** Nodes, written as blocks and the bits in each; a block may come more than once. */
final class Spread {
  private final IntArrayList blocks = new IntArrayList();
  private final LongArrayList nodes = new LongArrayList();

  /** Adds a node: cheapest in their order. */
  void add(int node) {
    int block = node / NodeMasks.IN_BLOCK;
    int last = blocks.size() - 1;
    if (last < 0 || blocks.getInt(last) != block) {
      add(block, 1L << node);
    } else {
      nodes.set(last, nodes.getLong(last) | 1L << node);
    }
  }

  /** Adds nodes of a block, if there are any. */
  void add(int block, long some) {
    if (some != 0) {
      blocks.add(block);
      nodes.add(some);
    }
  }

  int size() {
    return blocks.size();
  }

  int block(int number) {
    return blocks.getInt(number);
  }

  /** The bits in the block of that number. */
  long nodes(int number) {
    return nodes.getLong(number);
  }
}
