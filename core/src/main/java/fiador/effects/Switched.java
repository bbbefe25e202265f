package fiador.effects;

/** What a user has in sessions after switching, added up: what works in one, and what does not. */
final class Switched {
  private final NodeBlocks blocks;
  private final NodeMasks open;
  private final NodeMasks shut;

  /** In which blocks there is anything, and of what nodes there are parts or may be granted on. */
  private final NodeMasks all;

  /** By block the nodes that a session has something on, and those that two have. */
  private final long[] once;

  private final long[] twice;

  Switched(int nodes, NodeBlocks blocks) {
    this.blocks = blocks;
    this.open = new NodeMasks(nodes);
    this.shut = new NodeMasks(nodes);
    this.all = new NodeMasks(nodes);
    this.once = new long[nodes / NodeMasks.IN_BLOCK + 1];
    this.twice = new long[once.length];
  }

  void clear() {
    for (int i = 0; i < all.size(); i++) {
      int block = all.block(i);
      once[block] = 0;
      twice[block] = 0;
    }
    all.clear();
    open.clear();
    shut.clear();
  }

  /**
   * Adds what a session has.
   *
   * @param gates as they stand for that session
   */
  void add(NodeMasks masks, BlockGates gates) {
    for (int i = 0; i < masks.size(); i++) {
      int block = masks.block(i);
      long here = 0;
      for (int group = 0; group < blocks.groups(block); group++) {
        int key = blocks.key(block, group);
        for (long rest = masks.held(); rest != 0; rest &= rest - 1) {
          int privilege = Long.numberOfTrailingZeros(rest);
          long held = masks.held(block, privilege) & blocks.nodes(block, group);
          long passed = masks.passed(block, privilege) & held;
          long not = gates.shut(key, block, privilege, held);
          open.put(block, privilege, held & ~not, passed & ~not);
          shut.put(block, privilege, not, passed & not);
          here |= held;
        }
      }
      all.putFlags(block, masks.parts(block) & here, masks.anyPassed(block) & here);
      twice[block] |= once[block] & here;
      once[block] |= here;
    }
  }

  /**
   * Counts a privilege on some nodes of a block: in the best state, and once more in a worse one
   * that alone may grant it on. What works without switching is counted already.
   *
   * @param live where it works without switching
   * @param stopped where it does not, though held without switching
   * @param canGrant where it may be granted on without switching, if held
   */
  void count(
      int block,
      int privilege,
      long nodes,
      long live,
      long stopped,
      long canGrant,
      StateCounts into) {
    long onRequest = open.held(block, privilege) & nodes;
    long passed = canGrant & live;
    long more = open.passed(block, privilege) & nodes & ~passed;
    into.add(State.ON_REQUEST, Long.bitCount(onRequest & ~live | more));
    long blocked = stopped | shut.held(block, privilege) & nodes;
    long passedBlocked = canGrant & stopped | shut.passed(block, privilege) & nodes;
    long rows = blocked & ~live & ~onRequest | passedBlocked & ~passed & ~more;
    into.add(State.BLOCKED, Long.bitCount(rows));
  }

  /** The privileges of which there is something. */
  long held() {
    return open.held() | shut.held();
  }

  /** In which blocks there is anything. */
  NodeMasks all() {
    return all;
  }

  /** The nodes of a block that a session has something on. */
  long once(int block) {
    return once[block];
  }

  /** The nodes of a block that more than one has something on. */
  long twice(int block) {
    return twice[block];
  }
}
