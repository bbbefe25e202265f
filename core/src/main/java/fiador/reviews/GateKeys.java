package fiador.reviews;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.grants.Gate;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;

/** Who passes a gate on a container, and who holds rights behind it. Cost: the grants inside. */
final class GateKeys {
  private final Facts facts;
  private final int container;
  private final IntOpenHashSet holders = new IntOpenHashSet();
  private final boolean openToAll;

  GateKeys(Facts facts, Gate gate, int container) {
    this.facts = facts;
    this.container = container;
    IntOpenHashSet keys = new IntOpenHashSet();
    keys.add(facts.tree.owner(container));
    Grants grants = facts.access.grants();
    for (int row : grants.byNode().run(container)) {
      if ((grants.terms(row).privileges() & gate.privilege().bit()) != 0) {
        keys.add(grants.grantee(row));
      }
    }
    NodeKind kind = facts.tree.kind(container);
    for (int i = 0; i < facts.people.powerful().size(); i++) {
      int powerful = facts.people.powerful().getInt(i);
      for (Power power : Power.values()) {
        boolean opens =
            power == Power.SUPERUSER
                || (facts.access.rules().opened(power, kind) & gate.privilege().bit()) != 0;
        if (opens && facts.people.has(powerful, power)) {
          keys.add(powerful);
        }
      }
    }
    keys.remove(-1);
    this.openToAll = keys.contains(Principals.PUBLIC);
    keys.forEach((int key) -> holders.addAll(facts.reach.below(key)));
  }

  boolean isOpenToAll() {
    return openToAll;
  }

  /** Whether it comes through the gate, by itself or a role. */
  boolean has(int principal) {
    return openToAll || holders.contains(principal);
  }

  /** Everybody who was granted something inside, in order; PUBLIC is not among them. */
  IntArrayList granteesInside() {
    IntOpenHashSet found = new IntOpenHashSet();
    Grants grants = facts.access.grants();
    IntArrayList open = new IntArrayList(facts.tree.children().run(container));
    while (!open.isEmpty()) {
      int node = open.popInt();
      if (!facts.tree.kind(node).isObject()) {
        open.addElements(open.size(), facts.tree.children().run(node));
      }
      for (int place = grants.byNode().from(node); place < grants.byNode().to(node); place++) {
        found.add(grants.grantee(grants.byNode().row(place)));
      }
    }
    found.remove(Principals.PUBLIC);
    IntArrayList sorted = new IntArrayList(found);
    sorted.sort(null);
    return sorted;
  }
}
