package fiador.repairs;

import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.function.IntToLongFunction;
import java.util.function.IntUnaryOperator;

/**
 * Sums over all that can be reached from something, each asked for once. Along a chain, where each
 * link leads to one other only, a sum is that of the next link and the link's own: so a chain costs
 * its length, and not its length times itself. Of circles, which no server allows but a file may
 * hold, only simple ones are counted exactly.
 */
final class ChainSums {
  /** What {@code next} says where none follows, or more than one. */
  static final int NO_SINGLE = -1;

  private final IntUnaryOperator next;
  private final IntToLongFunction own;
  private final IntToLongFunction whole;
  private final Int2LongOpenHashMap known = new Int2LongOpenHashMap();

  /**
   * @param next the only one that follows, or {@link #NO_SINGLE}
   * @param own what one adds itself
   * @param whole the sum over all that can be reached, itself included, by looking at all of it
   */
  ChainSums(IntUnaryOperator next, IntToLongFunction own, IntToLongFunction whole) {
    this.next = next;
    this.own = own;
    this.whole = whole;
  }

  long of(int start) {
    IntArrayList line = new IntArrayList();
    IntOpenHashSet seen = new IntOpenHashSet();
    int at = start;
    while (!known.containsKey(at)) {
      int follows = next.applyAsInt(at);
      if (follows == NO_SINGLE) {
        known.put(at, whole.applyAsLong(at));
      } else if (seen.add(at)) {
        line.add(at);
        at = follows;
      } else {
        long all = whole.applyAsLong(at);
        while (!known.containsKey(at)) {
          known.put(line.popInt(), all);
        }
      }
    }
    long sum = known.get(at);
    for (int i = line.size() - 1; i >= 0; i--) {
      sum += own.applyAsLong(line.getInt(i));
      known.put(line.getInt(i), sum);
    }
    return sum;
  }
}
