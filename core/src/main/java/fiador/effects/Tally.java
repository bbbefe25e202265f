package fiador.effects;

import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntArrays;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Privileges added up per id (nodes when asked from a user, principals when asked from an object).
 * Clearing costs what was added, so it can be used again and again.
 */
final class Tally {
  /**
   * A privilege on some columns.
   *
   * @param privileges the privileges
   * @param grantable those that may be granted on
   * @param columns the ordinals
   */
  record Part(long privileges, long grantable, BitSet columns) {
    /** The same, with the right to grant on also what may be granted on for the whole. */
    Part grantingAlso(long wholeGrantable) {
      return new Part(privileges, (grantable | wholeGrantable) & privileges, columns);
    }
  }

  /** Set in the second word of an id that something was added to; no privilege has this bit. */
  private static final long TOUCHED = 1L << 63;

  /** Set beside it when the id has parts, so that most ids need not be looked up. */
  private static final long HAS_PARTS = 1L << 62;

  /** Set beside it when somebody marked the id. */
  private static final long MARKED = 1L << 61;

  private static final long PRIVILEGES = MARKED - 1;

  /** Two words an id, side by side in one cache line: what is held, and what may be granted on. */
  private final long[] words;

  private final IntArrayList touched = new IntArrayList();
  private final Int2ObjectOpenHashMap<List<Part>> parts = new Int2ObjectOpenHashMap<>();

  Tally(int ids) {
    words = new long[2 * ids];
  }

  void clear() {
    for (int i = 0; i < touched.size(); i++) {
      words[2 * touched.getInt(i)] = 0;
      words[2 * touched.getInt(i) + 1] = 0;
    }
    touched.clear();
    parts.clear();
  }

  void add(int id, long privileges, long canGrant) {
    touch(id);
    words[2 * id] |= privileges;
    words[2 * id + 1] |= canGrant;
  }

  void addPart(int id, Part part) {
    touch(id);
    words[2 * id + 1] |= HAS_PARTS;
    parts.computeIfAbsent(id, fresh -> new ArrayList<>(2)).add(part);
  }

  private void touch(int id) {
    if (words[2 * id + 1] >= 0) {
      words[2 * id + 1] = TOUCHED;
      touched.add(id);
    }
  }

  /** Marks an id. */
  void mark(int id) {
    touch(id);
    words[2 * id + 1] |= MARKED;
  }

  boolean isMarked(int id) {
    return (words[2 * id + 1] & MARKED) != 0;
  }

  boolean isTouched(int id) {
    return words[2 * id + 1] < 0;
  }

  long whole(int id) {
    return words[2 * id];
  }

  long grantable(int id) {
    return words[2 * id + 1] & PRIVILEGES;
  }

  List<Part> parts(int id) {
    return (words[2 * id + 1] & HAS_PARTS) == 0 ? List.of() : parts.get(id);
  }

  boolean isEmpty() {
    return touched.isEmpty();
  }

  /** The ids something was added to, in the order of adding. */
  IntArrayList touched() {
    return touched;
  }

  /** Sorts {@link #touched}. */
  void sort() {
    IntArrays.quickSort(touched.elements(), 0, touched.size());
  }
}
