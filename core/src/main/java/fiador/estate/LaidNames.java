package fiador.estate;

import fiador.columns.Chars;
import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import java.util.Arrays;

/** Texts that were laid down as columns, with the table that finds them. */
final class LaidNames {
  /** None at all. */
  static final LaidNames NONE = new LaidNames(Ints.of(0), Chars.NONE, Ints.of(-1));

  private final Ints start;
  private final Chars text;
  private final Ints slots;

  private LaidNames(Ints start, Chars text, Ints slots) {
    this.start = start;
    this.text = text;
    this.slots = slots;
  }

  static LaidNames take(ColumnSource source) {
    return new LaidNames(
        source.ints("names.start"), source.chars("names.text"), source.ints("names.slots"));
  }

  /**
   * Lays texts down that lie end to end.
   *
   * @param start where each begins and, behind the last, where that ends
   */
  static void put(int[] start, String text, ColumnSink sink) {
    char[] chars = text.toCharArray();
    int size = start.length - 1;
    int[] slots = new int[Math.max(16, Integer.highestOneBit(2 * size) << 1)];
    Arrays.fill(slots, -1);
    for (int id = 0; id < size; id++) {
      int slot = hash(chars, start[id], start[id + 1] - start[id]) & slots.length - 1;
      while (slots[slot] >= 0) {
        slot = slot + 1 & slots.length - 1;
      }
      slots[slot] = id;
    }
    sink.ints("names.start", Ints.of(start));
    sink.chars("names.text", Chars.of(text));
    sink.ints("names.slots", Ints.of(slots));
  }

  int size() {
    return start.size() - 1;
  }

  String text(int id) {
    return text.text(start.get(id), start.get(id + 1));
  }

  /** The id of the text in {@code chars[offset, offset + length)}, or -1. */
  int find(char[] chars, int offset, int length) {
    int mask = slots.size() - 1;
    int slot = hash(chars, offset, length) & mask;
    int id = slots.get(slot);
    while (id >= 0) {
      int from = start.get(id);
      int to = start.get(id + 1);
      if (to - from == length && text.same(from, to, chars, offset)) {
        return id;
      }
      slot = slot + 1 & mask;
      id = slots.get(slot);
    }
    return -1;
  }

  /** Spreads texts over a table; part of what is laid down, so it stays as it is. */
  static int hash(char[] chars, int offset, int length) {
    int hash = length;
    for (int i = offset; i < offset + length; i++) {
      hash = 31 * hash + chars[i];
    }
    hash *= 0x9E3779B9;
    return hash ^ (hash >>> 15);
  }
}
