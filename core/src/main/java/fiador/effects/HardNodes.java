package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.BitSet;

/** Nodes that masks cannot count. */
final class HardNodes {
  private final IntArrayList list = new IntArrayList();
  private final BitSet set = new BitSet();

  /** Adds those of a block. */
  void add(int block, long nodes) {
    for (long rest = nodes; rest != 0; rest &= rest - 1) {
      int node = block * NodeMasks.IN_BLOCK + Long.numberOfTrailingZeros(rest);
      list.add(node);
      set.set(node);
    }
  }

  void clear() {
    for (int i = 0; i < list.size(); i++) {
      set.clear(list.getInt(i));
    }
    list.clear();
  }

  int size() {
    return list.size();
  }

  int get(int number) {
    return list.getInt(number);
  }

  boolean contains(int node) {
    return set.get(node);
  }
}
