package fiador.proofs;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Clock;

/**
 * Who could take a table to a place where they have the right that they lack where it is. Where two
 * roles would have to be switched on for it, one after the other, it counts as if one were enough.
 * Cost of a question: the user's holdings on the table, and on each schema if they can take it.
 */
final class Moving {
  /** What is needed on the table. */
  static final long TAKES = PrivilegeSet.of(Privilege.ALTER, Privilege.DROP);

  private static final long PUTS = PrivilegeSet.of(Privilege.CREATE, Privilege.INSERT);

  private final Tree tree;
  private final Holdings holdings;
  private final Goal goal;
  private final boolean possible;

  Moving(Access access, Clock clock, Goal goal) {
    this.tree = access.tree();
    this.holdings = new Holdings(access, clock, true);
    this.goal = goal;
    this.possible =
        access.rules().has(HouseFact.RIGHTS_BY_NAME) && tree.kind(goal.node()) == NodeKind.TABLE;
  }

  /** The schema to move the table to; -1 for none. */
  int schemaFor(int user) {
    if (!possible || (working(user, goal.node()) & TAKES) != TAKES) {
      return None.NODE;
    }
    long needed = PUTS | goal.privilege().bit();
    int home = tree.enclosing(goal.node(), NodeKind.SCHEMA);
    for (int node = 1; node < tree.size(); node++) {
      boolean other = node != home && tree.kind(node) == NodeKind.SCHEMA;
      if (other && (working(user, node) & needed) == needed) {
        return node;
      }
    }
    return None.NODE;
  }

  private long working(int user, int node) {
    long bits = 0;
    for (Holding row : holdings.at(user, node)) {
      boolean works = row.state().works() && row.columns() == null;
      bits |= works ? row.privilege().bit() : 0;
    }
    return bits;
  }
}
