package fiador.columns;

import java.lang.invoke.VarHandle;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/** A long row of characters, as {@link Ints} is one of ints. */
public final class Chars {
  /** How many characters a piece that is fetched has; the last may have fewer. */
  public static final int PIECE = 1 << 10;

  /** No characters at all. */
  public static final Chars NONE = of(new char[0], 0);

  private final char[][] pieces;
  private final int shift;
  private final int mask;
  private final int size;
  private final @Nullable IntFunction<char[]> source;

  private Chars(
      char[][] pieces, int shift, int mask, int size, @Nullable IntFunction<char[]> source) {
    this.pieces = pieces;
    this.shift = shift;
    this.mask = mask;
    this.size = size;
    this.source = source;
  }

  /** The first of that array, which is kept and not to be written to there any more. */
  public static Chars of(char[] array, int size) {
    return new Chars(new char[][] {array}, 31, Integer.MAX_VALUE, size, null);
  }

  /** Characters that are fetched in pieces; as for {@link Ints#fetched}. */
  public static Chars fetched(int size, IntFunction<char[]> source) {
    char[][] pieces = new char[pieces(size)][];
    return new Chars(pieces, Integer.numberOfTrailingZeros(PIECE), PIECE - 1, size, source);
  }

  /** How many pieces so many characters make. */
  public static int pieces(int size) {
    return (size + PIECE - 1) >>> Integer.numberOfTrailingZeros(PIECE);
  }

  /** How many there are. */
  public int size() {
    return size;
  }

  /** The characters from one place to another, exclusive, as a text. */
  public String text(int from, int to) {
    int number = from >>> shift;
    if (to <= from) {
      return "";
    }
    if (number == (to - 1) >>> shift) {
      return new String(piece(number), from & mask, to - from);
    }
    return new String(copy(from, to));
  }

  /** Those from one place to another, exclusive, in an array of one's own. */
  public char[] copy(int from, int to) {
    char[] copy = new char[to - from];
    for (int at = from; at < to; ) {
      char[] piece = piece(at >>> shift);
      int count = Math.min(to - at, piece.length - (at & mask));
      System.arraycopy(piece, at & mask, copy, at - from, count);
      at += count;
    }
    return copy;
  }

  /**
   * Whether those from one place to another, exclusive, are the ones of the array from there on.
   */
  public boolean same(int from, int to, char[] chars, int offset) {
    for (int at = from; at < to; at++) {
      if (piece(at >>> shift)[at & mask] != chars[offset + at - from]) {
        return false;
      }
    }
    return true;
  }

  private char[] piece(int number) {
    char[] piece = pieces[number];
    if (piece == null) {
      if (source == null) {
        throw new IllegalStateException("an array on the heap has no further pieces");
      }
      piece = source.apply(number);
      VarHandle.releaseFence();
      pieces[number] = piece;
    }
    return piece;
  }
}
