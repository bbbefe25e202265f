package fiador.estate;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Arrays;

/**
 * Every text of an estate once, as an int. Characters lie end to end in one array and an open
 * addressing table finds them, so a million names cost their characters plus eight bytes each, and
 * a reader can intern straight from its buffer without making a String.
 *
 * <p>Where most texts were laid down as columns before, those are read from there, and only what
 * comes to them lies in arrays.
 *
 * <p>Not safe for concurrent writing; reading is safe once building is over.
 */
public final class Names {
  /** Texts that were there before, laid down; ids of others follow on. */
  private final LaidNames laid;

  private char[] text = new char[1 << 12];
  private final IntArrayList start = new IntArrayList(new int[] {0});
  private int[] slots = filled(1 << 10);

  /** No texts yet. */
  public Names() {
    this(LaidNames.NONE);
  }

  private Names(LaidNames laid) {
    this.laid = laid;
  }

  /** The texts that {@link #put} laid down; more can be added. Cost: none until they are asked. */
  public static Names take(ColumnSource source) {
    return new Names(LaidNames.take(source));
  }

  /**
   * Lays texts down. Cost: their length.
   *
   * @param count how many, the first ones; others came later
   */
  public void put(int count, ColumnSink sink) {
    int[] starts = new int[count + 1];
    StringBuilder all = new StringBuilder();
    for (int id = 0; id < count; id++) {
      if (id < laid.size()) {
        all.append(laid.text(id));
      } else {
        int from = start.getInt(id - laid.size());
        all.append(text, from, start.getInt(id - laid.size() + 1) - from);
      }
      starts[id + 1] = all.length();
    }
    LaidNames.put(starts, all.toString(), sink);
  }

  /** How many different texts there are. */
  public int size() {
    return laid.size() + added();
  }

  private int added() {
    return start.size() - 1;
  }

  /** The id of this text, new or known. Cost: its length. */
  public int intern(String name) {
    char[] chars = name.toCharArray();
    return intern(chars, 0, chars.length);
  }

  /** The id of the text in {@code chars[offset, offset + length)}, new or known. */
  public int intern(char[] chars, int offset, int length) {
    int before = laid.find(chars, offset, length);
    if (before >= 0) {
      return before;
    }
    int slot = slotOf(chars, offset, length);
    if (slots[slot] >= 0) {
      return laid.size() + slots[slot];
    }
    int id = added();
    int end = start.getInt(id) + length;
    if (end > text.length) {
      text = Arrays.copyOf(text, Math.max(end, text.length + (text.length >> 1)));
    }
    System.arraycopy(chars, offset, text, start.getInt(id), length);
    start.add(end);
    slots[slot] = id;
    if (2 * added() > slots.length) {
      grow();
    }
    return laid.size() + id;
  }

  /** The id of this text, or -1 where it is not known. */
  public int find(String name) {
    char[] chars = name.toCharArray();
    return find(chars, 0, chars.length);
  }

  /** The id of the text in {@code chars[offset, offset + length)}, or -1 where it is not known. */
  public int find(char[] chars, int offset, int length) {
    int before = laid.find(chars, offset, length);
    int added = slots[slotOf(chars, offset, length)];
    return before >= 0 ? before : added < 0 ? -1 : laid.size() + added;
  }

  /** The text of an id. */
  public String text(int id) {
    if (id < laid.size()) {
      return laid.text(id);
    }
    int from = start.getInt(id - laid.size());
    return new String(text, from, start.getInt(id - laid.size() + 1) - from);
  }

  private int slotOf(char[] chars, int offset, int length) {
    int mask = slots.length - 1;
    int slot = LaidNames.hash(chars, offset, length) & mask;
    while (slots[slot] >= 0 && !same(slots[slot], chars, offset, length)) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private boolean same(int id, char[] chars, int offset, int length) {
    int from = start.getInt(id);
    return Arrays.equals(text, from, start.getInt(id + 1), chars, offset, offset + length);
  }

  private void grow() {
    slots = filled(slots.length * 2);
    int mask = slots.length - 1;
    for (int id = 0; id < added(); id++) {
      int from = start.getInt(id);
      int slot = LaidNames.hash(text, from, start.getInt(id + 1) - from) & mask;
      while (slots[slot] >= 0) {
        slot = (slot + 1) & mask;
      }
      slots[slot] = id;
    }
  }

  private static int[] filled(int length) {
    int[] empty = new int[length];
    Arrays.fill(empty, -1);
    return empty;
  }
}
