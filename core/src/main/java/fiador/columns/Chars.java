package fiador.columns;

import java.lang.invoke.VarHandle;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/** A long row of characters, as {@link Ints} is one of ints. */
public final class Chars {
  /** How many characters a piece that is fetched has; the last may have fewer. */
  public static final int PIECE = 1 << 10;

  /** No characters at all. */
  public static final Chars NONE = of("");

  private final String[] pieces;
  private final int shift;
  private final int mask;
  private final int size;
  private final @Nullable IntFunction<String> source;

  private Chars(
      String[] pieces, int shift, int mask, int size, @Nullable IntFunction<String> source) {
    this.pieces = pieces;
    this.shift = shift;
    this.mask = mask;
    this.size = size;
    this.source = source;
  }

  /** The characters of a text. */
  public static Chars of(String text) {
    return new Chars(new String[] {text}, 31, Integer.MAX_VALUE, text.length(), null);
  }

  /** Characters that are fetched in pieces; as for {@link Ints#fetched}. */
  public static Chars fetched(int size, IntFunction<String> source) {
    String[] pieces = new String[pieces(size)];
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
    if (to <= from) {
      return "";
    }
    int number = from >>> shift;
    if (number == (to - 1) >>> shift) {
      return piece(number).substring(from & mask, (from & mask) + to - from);
    }
    StringBuilder text = new StringBuilder(to - from);
    for (int at = from; at < to; ) {
      String piece = piece(at >>> shift);
      int end = Math.min(piece.length(), (at & mask) + to - at);
      text.append(piece, at & mask, end);
      at += end - (at & mask);
    }
    return text.toString();
  }

  /**
   * Whether those from one place to another, exclusive, are the ones of the array from there on.
   */
  public boolean same(int from, int to, char[] chars, int offset) {
    for (int at = from; at < to; at++) {
      if (piece(at >>> shift).charAt(at & mask) != chars[offset + at - from]) {
        return false;
      }
    }
    return true;
  }

  private String piece(int number) {
    String piece = pieces[number];
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
