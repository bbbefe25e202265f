package fiador.effects;

import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntArrays;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Privileges added up per id (nodes when asked from a user, principals when asked from an object).
 * Plain arrays with a round number instead of clearing, so that using it again costs nothing.
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

  private final long[] whole;
  private final long[] grantable;
  private final int[] roundOf;
  private final IntArrayList touched = new IntArrayList();
  private final Int2ObjectOpenHashMap<List<Part>> parts = new Int2ObjectOpenHashMap<>();
  private int round = 1;

  Tally(int ids) {
    whole = new long[ids];
    grantable = new long[ids];
    roundOf = new int[ids];
  }

  void clear() {
    touched.clear();
    parts.clear();
    if (++round == Integer.MAX_VALUE) {
      Arrays.fill(roundOf, 0);
      round = 1;
    }
  }

  void add(int id, long privileges, long canGrant) {
    touch(id);
    whole[id] |= privileges;
    grantable[id] |= canGrant;
  }

  void addPart(int id, Part part) {
    touch(id);
    parts.computeIfAbsent(id, fresh -> new ArrayList<>(2)).add(part);
  }

  private void touch(int id) {
    if (roundOf[id] != round) {
      roundOf[id] = round;
      whole[id] = 0;
      grantable[id] = 0;
      touched.add(id);
    }
  }

  long whole(int id) {
    return roundOf[id] == round ? whole[id] : 0;
  }

  long grantable(int id) {
    return roundOf[id] == round ? grantable[id] : 0;
  }

  List<Part> parts(int id) {
    return parts.isEmpty() || roundOf[id] != round ? List.of() : parts.getOrDefault(id, List.of());
  }

  boolean hasParts() {
    return !parts.isEmpty();
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
