package fiador.columns;

import java.lang.invoke.VarHandle;
import java.util.Arrays;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/**
 * A long row of ints that nobody writes to: one array on the heap, or pieces that are fetched when
 * something in them is first asked for. One final class for both, so that a hot loop costs the same
 * few instructions and no call whichever it is.
 *
 * <p>Safe for several threads: two that fetch the same piece at once fetch the same.
 */
public final class Ints {
  /** How many ints a piece that is fetched has; the last may have fewer. */
  public static final int PIECE = 1 << 8;

  /** No ints at all. */
  public static final Ints NONE = of();

  private final int[][] pieces;
  private final int shift;
  private final int mask;
  private final int size;
  private final @Nullable IntFunction<int[]> source;

  private Ints(int[][] pieces, int shift, int mask, int size, @Nullable IntFunction<int[]> source) {
    this.pieces = pieces;
    this.shift = shift;
    this.mask = mask;
    this.size = size;
    this.source = source;
  }

  /** That array, which is kept and not to be written to any more. */
  public static Ints of(int... array) {
    return new Ints(new int[][] {array}, 31, Integer.MAX_VALUE, array.length, null);
  }

  /**
   * Ints that are fetched in pieces.
   *
   * @param size how many there are
   * @param source gives each piece by its number, {@link #PIECE} ints or what is left; asked once
   *     for each in the ordinary case, from any thread
   */
  public static Ints fetched(int size, IntFunction<int[]> source) {
    int[][] pieces = new int[pieces(size)][];
    return new Ints(pieces, Integer.numberOfTrailingZeros(PIECE), PIECE - 1, size, source);
  }

  /** How many pieces so many ints make. */
  public static int pieces(int size) {
    return (size + PIECE - 1) >>> Integer.numberOfTrailingZeros(PIECE);
  }

  /** How many there are. */
  public int size() {
    return size;
  }

  /**
   * The int at a place.
   *
   * @throws IndexOutOfBoundsException where there is none
   */
  public int get(int at) {
    // short enough for a compiler that inlines only what is short
    int[] piece = pieces[at >>> shift];
    return piece == null ? getFetched(at) : piece[at & mask];
  }

  private int getFetched(int at) {
    return fetch(at >>> shift)[at & mask];
  }

  /**
   * The array that a place is in, for loops over many places side by side; not to be written to.
   */
  public int[] array(int at) {
    int[] piece = pieces[at >>> shift];
    return piece == null ? fetch(at >>> shift) : piece;
  }

  /** Where in that array the place is. */
  public int inArray(int at) {
    return at & mask;
  }

  /**
   * The place behind the last one that is in the same array. Columns of the same length that came
   * the same way end their arrays at the same places.
   */
  public int endOfArray(int at) {
    return (int) Math.min(size, (at | (long) mask) + 1);
  }

  private int[] fetch(int number) {
    if (source == null) {
      throw new IllegalStateException("an array on the heap has no further pieces");
    }
    int[] piece = source.apply(number);
    // whoever sees the piece sees what is in it
    VarHandle.releaseFence();
    pieces[number] = piece;
    return piece;
  }

  /** All of them, in an array of one's own. */
  public int[] toArray() {
    return copy(0, size);
  }

  /** Those from one place to another, exclusive, in an array of one's own. */
  public int[] copy(int from, int to) {
    int[] copy = new int[to - from];
    for (int at = from; at < to; ) {
      int count = Math.min(to, endOfArray(at)) - at;
      System.arraycopy(array(at), inArray(at), copy, at - from, count);
      at += count;
    }
    return copy;
  }

  /** All of them in an array of one's own, followed by so many zeros that it is that long. */
  public int[] toArray(int length) {
    return Arrays.copyOf(toArray(), length);
  }

  /** The place of a value in ints that ascend, as {@link Arrays#binarySearch(int[], int)} says. */
  public int search(int value) {
    int low = 0;
    int high = size - 1;
    while (low <= high) {
      int middle = (low + high) >>> 1;
      int found = get(middle);
      if (found < value) {
        low = middle + 1;
      } else if (found > value) {
        high = middle - 1;
      } else {
        return middle;
      }
    }
    return -(low + 1);
  }
}
