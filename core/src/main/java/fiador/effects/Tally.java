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

  private static final long HAS_PARTS = 1L << 46;
  private static final long PRIVILEGES = HAS_PARTS - 1;
  private static final int ROUND_AT = 47;
  private static final long LAST_ROUND = (1L << 16) - 1;

  /**
   * Two words an id, side by side in one cache line, because fetching that line is what adding
   * costs: what is held; and what may be granted on, a flag, and the round it was last touched in.
   * Words of an earlier round count as empty, so that clearing costs nothing.
   */
  private final long[] words;

  private final IntArrayList touched = new IntArrayList();

  /**
   * Which of the lists an id's parts are in, where it has some: an array, for hashing costs more.
   */
  private int[] listOf = {};

  /** Lists of parts, those in use first; the others wait to be used again. */
  private final List<List<Part>> lists = new ArrayList<>();

  private int listsUsed;
  private long round = 1;

  Tally(int ids) {
    words = new long[2 * ids];
  }

  void clear() {
    touched.clear();
    listsUsed = 0;
    if (++round > LAST_ROUND) {
      Arrays.fill(words, 0);
      round = 1;
    }
  }

  void add(int id, long privileges, long canGrant) {
    touch(id);
    words[2 * id] |= privileges;
    words[2 * id + 1] |= canGrant;
  }

  void addPart(int id, Part part) {
    touch(id);
    if ((words[2 * id + 1] & HAS_PARTS) == 0) {
      words[2 * id + 1] |= HAS_PARTS;
      newList(id);
    }
    lists.get(listOf[id]).add(part);
  }

  private void newList(int id) {
    if (listOf.length == 0) {
      listOf = new int[words.length / 2];
    }
    if (listsUsed == lists.size()) {
      lists.add(new ArrayList<>(2));
    } else {
      lists.get(listsUsed).clear();
    }
    listOf[id] = listsUsed++;
  }

  private void touch(int id) {
    if (!isTouched(id)) {
      words[2 * id] = 0;
      words[2 * id + 1] = round << ROUND_AT;
      touched.add(id);
    }
  }

  boolean isTouched(int id) {
    return words[2 * id + 1] >>> ROUND_AT == round;
  }

  long whole(int id) {
    return isTouched(id) ? words[2 * id] : 0;
  }

  long grantable(int id) {
    return isTouched(id) ? words[2 * id + 1] & PRIVILEGES : 0;
  }

  /** The parts of an id; good until the next clearing. */
  List<Part> parts(int id) {
    return isTouched(id) && (words[2 * id + 1] & HAS_PARTS) != 0
        ? lists.get(listOf[id])
        : List.of();
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
