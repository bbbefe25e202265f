package fiador.estate;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Arrays;

/**
 * Every text of an estate once, as an int. Characters lie end to end in one array and an open
 * addressing table finds them, so a million names cost their characters plus eight bytes each, and
 * a reader can intern straight from its buffer without making a String.
 *
 * <p>Not safe for concurrent writing; reading is safe once building is over.
 */
public final class Names {
  private char[] text = new char[1 << 12];
  private final IntArrayList start = new IntArrayList(new int[] {0});
  private int[] slots = filled(1 << 10);

  /** How many different texts there are. */
  public int size() {
    return start.size() - 1;
  }

  /** The id of this text, new or known. Cost: its length. */
  public int intern(String name) {
    char[] chars = name.toCharArray();
    return intern(chars, 0, chars.length);
  }

  /** The id of the text in {@code chars[offset, offset + length)}, new or known. */
  public int intern(char[] chars, int offset, int length) {
    int slot = slotOf(chars, offset, length);
    if (slots[slot] >= 0) {
      return slots[slot];
    }
    int id = size();
    int end = start.getInt(id) + length;
    if (end > text.length) {
      text = Arrays.copyOf(text, Math.max(end, text.length + (text.length >> 1)));
    }
    System.arraycopy(chars, offset, text, start.getInt(id), length);
    start.add(end);
    slots[slot] = id;
    if (2 * size() > slots.length) {
      grow();
    }
    return id;
  }

  /** The id of this text, or -1 where it is not known. */
  public int find(String name) {
    char[] chars = name.toCharArray();
    return slots[slotOf(chars, 0, chars.length)];
  }

  /** The id of the text in {@code chars[offset, offset + length)}, or -1 where it is not known. */
  public int find(char[] chars, int offset, int length) {
    return slots[slotOf(chars, offset, length)];
  }

  /** The text of an id. */
  public String text(int id) {
    int from = start.getInt(id);
    return new String(text, from, start.getInt(id + 1) - from);
  }

  private int slotOf(char[] chars, int offset, int length) {
    int mask = slots.length - 1;
    int slot = hash(chars, offset, length) & mask;
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
    for (int id = 0; id < size(); id++) {
      int from = start.getInt(id);
      int slot = hash(text, from, start.getInt(id + 1) - from) & mask;
      while (slots[slot] >= 0) {
        slot = (slot + 1) & mask;
      }
      slots[slot] = id;
    }
  }

  private static int hash(char[] chars, int offset, int length) {
    int hash = length;
    for (int i = offset; i < offset + length; i++) {
      hash = 31 * hash + chars[i];
    }
    hash *= 0x9E3779B9;
    return hash ^ (hash >>> 15);
  }

  private static int[] filled(int length) {
    int[] empty = new int[length];
    Arrays.fill(empty, -1);
    return empty;
  }
}
