package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;

/**
 * Rights on nodes, added up for 64 nodes at a time, a block, in which a node is a bit. Privileges,
 * and sets of them, are said by {@link SmallNumbers}. Clearing costs what was added.
 */
final class NodeMasks {
  static final int IN_BLOCK = Long.SIZE;

  /** Beside what is held: where columns are held, and where anything may be granted on. */
  private static final int PARTS = MaskRows.reserved(0);

  private static final int ANY_PASSED = MaskRows.reserved(1);

  /** By privilege where it is held, on the whole or a part. */
  private final MaskRows rows;

  /** By privilege where it may be granted on, on the whole. */
  private final MaskRows passed;

  private long held;
  private boolean anyPassed;

  /** By block where it stands in the list, counted from 1; 0 for one with nothing in it. */
  private final int[] placeOf;

  private final IntArrayList blocks = new IntArrayList();

  /**
   * Masks with nothing in them.
   *
   * @param nodes how many there are
   */
  NodeMasks(int nodes) {
    this.rows = new MaskRows(2);
    this.passed = new MaskRows(0);
    this.placeOf = new int[nodes / IN_BLOCK + 1];
  }

  /** Where a block stands, which it does from now on. */
  private int place(int block) {
    int place = placeOf[block];
    if (place == 0) {
      blocks.add(block);
      place = blocks.size();
      placeOf[block] = place;
    }
    return place - 1;
  }

  /**
   * Adds privileges on the whole of nodes.
   *
   * @param some the numbers of those that are held
   * @param canGrant the numbers of those that may be granted on
   */
  void add(int block, long nodes, long some, long canGrant) {
    int at = place(block);
    held |= some;
    for (long rest = some; rest != 0; rest &= rest - 1) {
      rows.add(at, Long.numberOfTrailingZeros(rest), nodes);
    }
    if (canGrant != 0) {
      anyPassed = true;
      rows.add(at, ANY_PASSED, nodes);
      for (long rest = canGrant; rest != 0; rest &= rest - 1) {
        passed.add(at, Long.numberOfTrailingZeros(rest), nodes);
      }
    }
  }

  /** Adds privileges on the whole of nodes, as the other. */
  void add(Spread nodes, long some, long canGrant) {
    for (int i = 0; i < nodes.size(); i++) {
      add(nodes.block(i), nodes.nodes(i), some, canGrant);
    }
  }

  /** Adds where a privilege is held in a block, and where it may be granted on. */
  void put(int block, int privilege, long nodes, long canGrant) {
    if (nodes != 0) {
      add(block, nodes, 1L << privilege, 0);
    }
    if (canGrant != 0) {
      add(block, canGrant, 0, 1L << privilege);
    }
  }

  /** Adds that there is something in a block, and on which nodes parts and what is passed on. */
  void putFlags(int block, long someParts, long somePassed) {
    int at = place(block);
    if (someParts != 0) {
      rows.add(at, PARTS, someParts);
    }
    if (somePassed != 0) {
      rows.add(at, ANY_PASSED, somePassed);
    }
  }

  /** How many blocks something was added to. */
  int size() {
    return blocks.size();
  }

  /** One of the blocks something was added to. */
  int block(int number) {
    return blocks.getInt(number);
  }

  /** Whether something was added to a block. */
  boolean touches(int block) {
    return placeOf[block] != 0;
  }

  /** The privileges of which there is something. */
  long held() {
    return held;
  }

  /** The nodes of a block on which a privilege is held, on the whole or a part. */
  long held(int block, int privilege) {
    return at(rows, block, privilege);
  }

  /** How many privileges are held on some nodes of the block of that number. */
  int countAt(int number, long nodes) {
    return nodes == 0 ? 0 : rows.count(number, nodes);
  }

  /** The nodes of the block of that number of which columns are held, some to be granted on. */
  long partsPassedAt(int number) {
    return rows.get(number, PARTS) & rows.get(number, ANY_PASSED);
  }

  /** The nodes of a block on the whole of which a privilege may be granted on. */
  long passed(int block, int privilege) {
    return at(passed, block, privilege);
  }

  /** The nodes of a block of which columns are held. */
  long parts(int block) {
    return at(rows, block, PARTS);
  }

  /** The nodes of a block on which something may be granted on, also on columns. */
  long anyPassed(int block) {
    return at(rows, block, ANY_PASSED);
  }

  /** Whether a privilege is held on a node; false for none. */
  boolean has(int node, int privilege) {
    return privilege >= 0 && (held(node / IN_BLOCK, privilege) >>> node & 1) != 0;
  }

  private long at(MaskRows some, int block, int number) {
    int place = placeOf[block];
    return place == 0 ? 0 : some.get(place - 1, number);
  }

  /** Forgets all. */
  void clear() {
    rows.clear(blocks.size());
    if (anyPassed) {
      passed.clear(blocks.size());
    }
    for (int i = 0; i < blocks.size(); i++) {
      placeOf[blocks.getInt(i)] = 0;
    }
    blocks.clear();
    held = 0;
    anyPassed = false;
  }
}
