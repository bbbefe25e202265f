package fiador.effects;

import fiador.effects.Gates.OnTheWay;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Terms;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;

/**
 * Who holds the privilege that a gate asks for. Many things lie behind the same gate, so what was
 * found is kept for the next question. Cost: the reverse closure of the gate's grantees, once.
 */
final class ThroughGates {
  private static final int KEPT = 1000;

  private final Access access;
  private final Tree tree;
  private final Principals principals;
  private final RoleWalk walk;
  private final Map<OnTheWay, BitSet> known = new HashMap<>();

  ThroughGates(Access access, RoleWalk walk) {
    this.access = access;
    this.tree = access.tree();
    this.principals = access.principals();
    this.walk = walk;
  }

  /** The principals that pass; {@link Principals#PUBLIC} alone where everybody does. */
  BitSet of(OnTheWay gate) {
    if (known.size() > KEPT) {
      known.clear();
    }
    return known.computeIfAbsent(gate, this::found);
  }

  private BitSet found(OnTheWay gate) {
    long wanted = gate.gate().privilege().bit();
    BitSet found = new BitSet(principals.size());
    IntArrayList starts = new IntArrayList();
    Grants grants = access.grants();
    for (int at = gate.container(); at >= 0; at = tree.parent(at)) {
      int wantedKind = at == gate.container() ? 0 : tree.kind(gate.container()).bit();
      for (int i = grants.byNode().from(at); i < grants.byNode().to(at); i++) {
        Terms terms = grants.terms(grants.byNode().row(i));
        if ((terms.privileges() & wanted) != 0 && (terms.covers() & wantedKind) == wantedKind) {
          starts.add(grants.grantee(grants.byNode().row(i)));
        }
      }
    }
    int owner = tree.owner(gate.container());
    if (owner >= 0 && (tree.withheld(gate.container()) & wanted) == 0) {
      starts.add(owner);
    }
    for (int i = 0; i < principals.powerful().size(); i++) {
      int principal = principals.powerful().getInt(i);
      for (Power power : Power.values()) {
        if (principals.has(principal, power)
            && (access.rules().opened(power, tree.kind(gate.container())) & wanted) != 0) {
          starts.add(principal);
        }
      }
    }
    if (starts.contains(Principals.PUBLIC)) {
      found.set(Principals.PUBLIC);
      return found;
    }
    IntArrayList members = walk.down(starts, RoleWalk.Along.INHERIT);
    for (int i = 0; i < members.size(); i++) {
      found.set(members.getInt(i));
    }
    return found;
  }
}
