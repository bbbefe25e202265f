package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntArrays;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Privileges added up per id (nodes when asked from a user, principals when asked from an object).
 * Can be used again and again.
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

  /** The list of an id that has no parts. */
  private static final int NONE = -1;

  /**
   * Where each id stands among those that were touched, if it does: what stands there has to be
   * that id. So clearing costs nothing, and what is added up lies side by side however far apart
   * the ids are.
   */
  private final int[] slotOf;

  private final IntArrayList touched = new IntArrayList();

  /** By slot: what is held, and what may be granted on. */
  private long[] held = new long[16];

  private long[] grantable = new long[16];

  /** By slot: which of the lists the parts are in. */
  private int[] listOf = new int[16];

  /** Lists of parts, those in use first; the others wait to be used again. */
  private final List<List<Part>> lists = new ArrayList<>();

  private int listsUsed;

  Tally(int ids) {
    slotOf = new int[ids];
  }

  void clear() {
    touched.clear();
    listsUsed = 0;
  }

  void add(int id, long privileges, long canGrant) {
    int slot = touch(id);
    held[slot] |= privileges;
    grantable[slot] |= canGrant;
  }

  void addPart(int id, Part part) {
    int slot = touch(id);
    if (listOf[slot] == NONE) {
      newList(slot);
    }
    List<Part> parts = lists.get(listOf[slot]);
    if (!parts.contains(part)) {
      parts.add(part);
    }
  }

  private void newList(int slot) {
    if (listsUsed == lists.size()) {
      lists.add(new ArrayList<>(2));
    } else {
      lists.get(listsUsed).clear();
    }
    listOf[slot] = listsUsed++;
  }

  private int touch(int id) {
    int slot = slot(id);
    if (slot >= 0) {
      return slot;
    }
    slot = touched.size();
    if (slot == held.length) {
      held = Arrays.copyOf(held, 2 * slot);
      grantable = Arrays.copyOf(grantable, 2 * slot);
      listOf = Arrays.copyOf(listOf, 2 * slot);
    }
    touched.add(id);
    slotOf[id] = slot;
    held[slot] = 0;
    grantable[slot] = 0;
    listOf[slot] = NONE;
    return slot;
  }

  /** The slot of an id, or -1. */
  private int slot(int id) {
    int slot = slotOf[id];
    return slot < touched.size() && touched.getInt(slot) == id ? slot : -1;
  }

  long whole(int id) {
    int slot = slot(id);
    return slot < 0 ? 0 : held[slot];
  }

  long grantable(int id) {
    int slot = slot(id);
    return slot < 0 ? 0 : grantable[slot];
  }

  /** The parts of an id; good until the next clearing. */
  List<Part> parts(int id) {
    int slot = slot(id);
    return slot < 0 || listOf[slot] == NONE ? List.of() : lists.get(listOf[slot]);
  }

  boolean isEmpty() {
    return touched.isEmpty();
  }

  /** The ids something was added to, in the order of adding. */
  IntArrayList touched() {
    return touched;
  }

  /** The ids something was added to, ascending. */
  IntArrayList sorted() {
    int[] ids = touched.toIntArray();
    IntArrays.unstableSort(ids);
    return IntArrayList.wrap(ids);
  }
}
