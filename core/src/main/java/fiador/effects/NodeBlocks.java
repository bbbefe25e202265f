package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.Long2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.longs.LongArrayList;

/**
 * The nodes in blocks, as {@link NodeMasks} count them: which of a block are of the same kind and
 * in the same container, a group, and which all of a kind in a container are. Looked up where
 * needed, and kept.
 */
final class NodeBlocks {
  private static final int KINDS = NodeKind.values().length;

  /** Stands for all containers there are. */
  private static final int EVERYWHERE = -1;

  private final Tree tree;
  private final Gathering gathering;
  private final boolean withSystem;
  private final Int2IntOpenHashMap numberOfHome = new Int2IntOpenHashMap();
  private final Long2ObjectOpenHashMap<Spread> spreads = new Long2ObjectOpenHashMap<>();

  /**
   * By block: 0 if not looked up yet; where all of it is one group, the key of that, below 0; else
   * where its groups begin in the lists, counted from 1.
   */
  private final int[] known;

  /** By block how many groups it has in the lists. */
  private final byte[] listed;

  /** By group the number of the container and the kind in one, and the nodes. */
  private final IntArrayList keys = new IntArrayList();

  private final LongArrayList nodes = new LongArrayList();

  NodeBlocks(Tree tree, Gathering gathering, boolean withSystem) {
    this.tree = tree;
    this.gathering = gathering;
    this.withSystem = withSystem;
    this.known = new int[tree.size() / NodeMasks.IN_BLOCK + 1];
    this.listed = new byte[known.length];
  }

  /** How many groups a block has; nodes that are no part of the answer are in none. */
  int groups(int block) {
    return known(block) < 0 ? 1 : listed[block];
  }

  /** The key of the only group of a block, which has all of its nodes; -1 for other blocks. */
  int only(int block) {
    int at = known(block);
    return at < 0 ? ~at : -1;
  }

  /** Says what kind of nodes a group of a block has, and the container they are in. */
  int key(int block, int group) {
    int at = known(block);
    return at < 0 ? ~at : keys.getInt(at - 1 + group);
  }

  /** The number of the container that nodes are in. */
  static int home(int key) {
    return key / KINDS;
  }

  /** The kind of nodes. */
  static NodeKind kind(int key) {
    return NodeKind.at(key % KINDS);
  }

  /** The nodes of a group; where it is the only one, maybe some that there are not besides. */
  long nodes(int block, int group) {
    int at = known(block);
    return at < 0 ? -1 : nodes.getLong(at - 1 + group);
  }

  private int known(int block) {
    if (known[block] == 0) {
      findGroups(block);
    }
    return known[block];
  }

  private void findGroups(int block) {
    int start = keys.size();
    int end = Math.min(tree.size(), (block + 1) * NodeMasks.IN_BLOCK);
    boolean all = true;
    for (int node = block * NodeMasks.IN_BLOCK; node < end; node++) {
      if (!withSystem && gathering.isSystem(node)) {
        all = false;
        continue;
      }
      int home = numberOfHome.computeIfAbsent(tree.parent(node), fresh -> numberOfHome.size());
      int key = home * KINDS + tree.kind(node).ordinal();
      int group = start;
      while (group < keys.size() && keys.getInt(group) != key) {
        group++;
      }
      if (group == keys.size()) {
        keys.add(key);
        nodes.add(0);
      }
      nodes.set(group, nodes.getLong(group) | 1L << node);
    }
    int count = keys.size() - start;
    known[block] = all && count == 1 ? ~keys.getInt(start) : start + 1;
    listed[block] = (byte) count;
    if (known[block] < 0) {
      keys.size(start);
      nodes.size(start);
    }
  }

  /** All of a kind in a container, at any depth. Cost: what is in it, once. */
  Spread inside(int container, NodeKind kind) {
    return spreads.computeIfAbsent(key(container, kind), fresh -> findInside(container, kind));
  }

  private Spread findInside(int container, NodeKind kind) {
    Spread found = new Spread();
    IntArrayList open = IntArrayList.of(container);
    while (!open.isEmpty()) {
      int at = open.popInt();
      for (int i = tree.children().from(at); i < tree.children().to(at); i++) {
        int child = tree.children().row(i);
        if (tree.kind(child) == kind) {
          found.add(child);
        }
        open.add(child);
      }
    }
    return found;
  }

  /** All of a kind. Cost: all nodes, once. */
  Spread everywhere(NodeKind kind) {
    return spreads.computeIfAbsent(key(EVERYWHERE, kind), fresh -> findEverywhere(kind));
  }

  private Spread findEverywhere(NodeKind kind) {
    Spread found = new Spread();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node) == kind) {
        found.add(node);
      }
    }
    return found;
  }

  private static long key(int container, NodeKind kind) {
    return (long) container * KINDS + kind.ordinal();
  }
}
