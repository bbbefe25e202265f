package fiador.effects;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.LongArrayList;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * Rights on nodes, added up for 64 nodes at a time, a block: of each privilege a row of longs in
 * which a node is a bit. Privileges, and sets of them, are said by {@link SmallNumbers}. Clearing
 * costs what was added.
 */
final class NodeMasks {
  static final int IN_BLOCK = Long.SIZE;

  /** With more of 64 blocks it is quicker to clear all. */
  private static final int FEW = 16;

  private final int blocks;
  private final int privileges;

  /**
   * For each privilege where it is held, then where it may be granted on; null where it was never
   * used. Behind them where columns are held, and where anything may be granted on.
   */
  private final long[] @Nullable [] planes;

  private final int parts;
  private final int anyPassed;

  /** The planes with something in them, and the privileges held. */
  private final IntArrayList used = new IntArrayList();

  private final boolean[] isUsed;
  private long held;

  /** A bit for each block something was added to. */
  private final long[] touched;

  /**
   * @param nodes how many there are
   * @param privileges how many there are
   */
  NodeMasks(int nodes, int privileges) {
    this.blocks = (nodes + IN_BLOCK - 1) / IN_BLOCK;
    this.privileges = privileges;
    this.parts = 2 * privileges;
    this.anyPassed = parts + 1;
    this.planes = new long[anyPassed + 1][];
    this.isUsed = new boolean[planes.length];
    this.touched = new long[(blocks + Long.SIZE - 1) / Long.SIZE];
  }

  private long[] plane(int number) {
    long[] plane = planes[number];
    if (!isUsed[number]) {
      isUsed[number] = true;
      used.add(number);
      held |= number < privileges ? 1L << number : 0;
      if (plane == null) {
        plane = new long[blocks];
        planes[number] = plane;
      }
    }
    return plane;
  }

  /** Adds privileges on one node, as {@link #add(int, long, long, long)}. */
  void add(int node, long held, long passed) {
    add(node / IN_BLOCK, 1L << node, held, passed);
  }

  /**
   * Adds privileges on the whole of nodes.
   *
   * @param held the numbers of those that are held
   * @param passed the numbers of those that may be granted on
   */
  void add(int block, long nodes, long held, long passed) {
    touched[block / Long.SIZE] |= 1L << block;
    for (long rest = held; rest != 0; rest &= rest - 1) {
      plane(Long.numberOfTrailingZeros(rest))[block] |= nodes;
    }
    if (passed != 0) {
      plane(anyPassed)[block] |= nodes;
      for (long rest = passed; rest != 0; rest &= rest - 1) {
        plane(privileges + Long.numberOfTrailingZeros(rest))[block] |= nodes;
      }
    }
  }

  /** Adds privileges on some columns of a node. */
  void addPart(int node, long held, boolean passed) {
    add(node, held, 0);
    plane(parts)[node / IN_BLOCK] |= 1L << node;
    if (passed) {
      plane(anyPassed)[node / IN_BLOCK] |= 1L << node;
    }
  }

  /** Adds where a privilege is held in a block, and where it may be granted on. */
  void put(int block, int privilege, long held, long passed) {
    if (held != 0) {
      add(block, held, 1L << privilege, 0);
    }
    if (passed != 0) {
      add(block, passed, 0, 1L << privilege);
    }
  }

  /** Adds that there is something in a block, and on which nodes parts and what is passed on. */
  void putFlags(int block, long someParts, long somePassed) {
    touched[block / Long.SIZE] |= 1L << block;
    if (someParts != 0) {
      plane(parts)[block] |= someParts;
    }
    if (somePassed != 0) {
      plane(anyPassed)[block] |= somePassed;
    }
  }

  /**
   * A row of longs of which most are 0: the others.
   *
   * @param at where they are
   * @param longs what they are
   */
  @SuppressWarnings("ArrayRecordComponent")
  private record Sparse(int[] at, long[] longs) {
    private void addTo(long[] row) {
      for (int i = 0; i < at.length; i++) {
        row[at[i]] |= longs[i];
      }
    }
  }

  /** Rights on nodes that are only there to be added to others. */
  static final class Packed {
    private final int[] planes;
    private final Sparse[] rows;
    private final Sparse touched;

    private Packed(int[] planes, Sparse[] rows, Sparse touched) {
      this.planes = planes;
      this.rows = rows;
      this.touched = touched;
    }

    /** How many longs are kept, about. */
    int size() {
      int size = touched.at.length;
      for (Sparse each : rows) {
        size += each.at.length;
      }
      return size * 3 / 2;
    }
  }

  /** What was added, by itself. */
  Packed packed() {
    IntArrayList blocksTouched = new IntArrayList();
    for (int block = next(0); block >= 0; block = next(block + 1)) {
      blocksTouched.add(block);
    }
    IntArrayList words = new IntArrayList();
    for (int word = 0; word < touched.length; word++) {
      words.add(word);
    }
    Sparse[] rows = new Sparse[used.size()];
    for (int i = 0; i < rows.length; i++) {
      rows[i] = sparse(plane(used.getInt(i)), blocksTouched);
    }
    return new Packed(used.toIntArray(), rows, sparse(touched, words));
  }

  /** Those at some places of a row that are not 0. */
  private static Sparse sparse(long[] row, IntArrayList places) {
    IntArrayList at = new IntArrayList();
    LongArrayList longs = new LongArrayList();
    for (int i = 0; i < places.size(); i++) {
      int place = places.getInt(i);
      if (row[place] != 0) {
        at.add(place);
        longs.add(row[place]);
      }
    }
    return new Sparse(at.toIntArray(), longs.toLongArray());
  }

  /** Adds what was packed. */
  void add(Packed packed) {
    for (int i = 0; i < packed.planes.length; i++) {
      packed.rows[i].addTo(plane(packed.planes[i]));
    }
    packed.touched.addTo(touched);
  }

  /** The first block from one on to which something was added; -1 for none. */
  int next(int from) {
    int word = from / Long.SIZE;
    if (word >= touched.length) {
      return -1;
    }
    long rest = touched[word] & -1L << from;
    while (rest == 0) {
      if (++word == touched.length) {
        return -1;
      }
      rest = touched[word];
    }
    return word * Long.SIZE + Long.numberOfTrailingZeros(rest);
  }

  /** Whether something was added to a block. */
  boolean touches(int block) {
    return (touched[block / Long.SIZE] >>> block & 1) != 0;
  }

  /** The privileges of which there is something. */
  long held() {
    return held;
  }

  /** The nodes of a block on which a privilege is held, on the whole or a part. */
  long held(int block, int privilege) {
    return at(privilege, block);
  }

  /** On how many of some nodes a privilege is held. */
  long count(int privilege, Spread among) {
    long[] plane = planes[privilege];
    return plane == null ? 0 : among.count(plane);
  }

  /** The nodes of a block on the whole of which a privilege may be granted on. */
  long passed(int block, int privilege) {
    return at(privileges + privilege, block);
  }

  /** The nodes of a block of which columns are held. */
  long parts(int block) {
    return at(parts, block);
  }

  /** The nodes of a block on which something may be granted on, also on columns. */
  long anyPassed(int block) {
    return at(anyPassed, block);
  }

  /** Whether a privilege is held on a node; false for none. */
  boolean has(int node, int privilege) {
    return privilege >= 0 && (at(privilege, node / IN_BLOCK) >>> node & 1) != 0;
  }

  private long at(int plane, int block) {
    long[] nodes = planes[plane];
    return nodes == null ? 0 : nodes[block];
  }

  /** Forgets all. */
  void clear() {
    for (int word = 0; word < touched.length; word++) {
      int from = word * Long.SIZE;
      long rest = touched[word];
      if (Long.bitCount(rest) > FEW) {
        int to = Math.min(blocks, from + Long.SIZE);
        for (int i = 0; i < used.size(); i++) {
          Arrays.fill(planes[used.getInt(i)], from, to, 0);
        }
        rest = 0;
      }
      for (; rest != 0; rest &= rest - 1) {
        int block = from + Long.numberOfTrailingZeros(rest);
        for (int i = 0; i < used.size(); i++) {
          planes[used.getInt(i)][block] = 0;
        }
      }
      touched[word] = 0;
    }
    for (int i = 0; i < used.size(); i++) {
      isUsed[used.getInt(i)] = false;
    }
    used.clear();
    held = 0;
  }
}
