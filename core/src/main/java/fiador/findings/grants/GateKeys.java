package fiador.findings.grants;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.findings.check.Facts;
import fiador.grants.Grants;
import fiador.grants.rules.Gate;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;

/** Who was given the keys to containers with a gate. Cost: the grants on each container, once. */
final class GateKeys {
  private final Facts facts;
  private final Gate gate;
  private final Int2ObjectOpenHashMap<IntOpenHashSet> keys = new Int2ObjectOpenHashMap<>();

  GateKeys(Facts facts, Gate gate) {
    this.facts = facts;
    this.gate = gate;
  }

  /** Those who have the key themselves: by a grant, as owner, by a power; or PUBLIC. */
  private IntOpenHashSet keys(int container) {
    IntOpenHashSet known = keys.get(container);
    if (known != null) {
      return known;
    }
    IntOpenHashSet found = new IntOpenHashSet();
    found.add(facts.tree.owner(container));
    Grants grants = facts.access.grants();
    var rows = grants.byNode();
    for (int place = rows.from(container); place < rows.to(container); place++) {
      int row = rows.row(place);
      if ((grants.terms(row).privileges() & gate.privilege().bit()) != 0) {
        found.add(grants.grantee(row));
      }
    }
    NodeKind kind = facts.tree.kind(container);
    for (int i = 0; i < facts.people.powerful().size(); i++) {
      int powerful = facts.people.powerful().getInt(i);
      for (Power power : Power.values()) {
        boolean opens =
            (facts.access.notByPower(container) & gate.privilege().bit()) == 0
                && (power == Power.SUPERUSER
                    || (facts.access.rules().opened(power, kind) & gate.privilege().bit()) != 0);
        if (opens && facts.people.has(powerful, power)) {
          found.add(powerful);
        }
      }
    }
    found.remove(-1);
    keys.put(container, found);
    return found;
  }

  /** Whether it comes through the gate, by itself or over any role. */
  boolean lets(int principal, int container) {
    IntOpenHashSet holders = keys(container);
    if (holders.contains(Principals.PUBLIC) || holders.contains(principal)) {
      return true;
    }
    for (int held : facts.upOf(principal)) {
      if (holders.contains(held)) {
        return true;
      }
    }
    return false;
  }
}
