package fiador.effects;

import fiador.effects.Gates.OnTheWay;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Function;

/** Who gets through the gates to a node: those checked at login, or those checked in acting. */
final class Passing {
  private final Tree tree;
  private final int node;
  private final boolean closed;
  private final List<BitSet> holders = new ArrayList<>();

  /**
   * @param throughGates tells who has what a gate asks for
   */
  Passing(
      Gates gates, Tree tree, Function<OnTheWay, BitSet> throughGates, int node, boolean atLogin) {
    this.tree = tree;
    this.node = node;
    this.closed = gates.isClosed(node);
    for (OnTheWay gate : gates.to(node, 0)) {
      if (gate.gate().atLogin() == atLogin) {
        holders.add(throughGates.apply(gate));
      }
    }
  }

  boolean lets(int principal) {
    for (BitSet set : holders) {
      if (!set.get(Principals.PUBLIC) && !set.get(principal)) {
        return false;
      }
    }
    return true;
  }

  /** The privileges on the node that the gates keep from the principal. */
  long shut(int principal, long wanted) {
    boolean database = tree.kind(node) == NodeKind.DATABASE;
    long connect = database ? Privilege.CONNECT.bit() : 0;
    return closed ? wanted : lets(principal) ? 0 : wanted & ~connect;
  }

  /** Whether nobody gets in at all. */
  boolean isClosed() {
    return closed;
  }
}
