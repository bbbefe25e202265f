package fiador.reviews;

import fiador.changes.Step;
import fiador.grants.Gate;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Privileges that cannot be used for want of a gate. */
final class MissingGate implements Check {
  static final Asked ASKED =
      new Asked(
          "missing-gate",
          Severity.MEDIUM,
          "Whose privileges do nothing, because the right on the schema or database around them is missing?",
          "Grant the gate to the same role, or take the privileges away.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (Gate gate : facts.access.rules().gates()) {
      for (int container = 0; container < facts.tree.size(); container++) {
        boolean gated = facts.tree.kind(container) == gate.container();
        if (gated && !facts.tree.isSystem(container)) {
          look(facts, gate, container, found);
        }
      }
    }
  }

  private void look(Facts facts, Gate gate, int container, Consumer<Finding> found) {
    GateKeys keys = new GateKeys(facts, gate, container);
    if (keys.isOpenToAll()) {
      return;
    }
    for (int grantee : keys.granteesInside()) {
      if (!facts.isOurs(grantee) || keys.has(grantee)) {
        continue;
      }
      IntArrayList without = new IntArrayList();
      for (int user : facts.usersOf(grantee)) {
        if (!keys.has(user)) {
          without.add(user);
        }
      }
      if (!without.isEmpty()) {
        Phrase said =
            Phrase.of("holds rights in ")
                .kindAndWhere(container)
                .say(" that do nothing: " + gate.privilege().text() + " on it is missing");
        found.accept(
            Finding.about(ASKED, grantee, said)
                .on(container)
                .concerns(without)
                .mendedBy(
                    List.of(
                        new Step.Grant(
                            gate.privilege().bit(),
                            facts.taking.on(container),
                            List.of(),
                            facts.people.name(grantee),
                            false))));
      }
    }
  }
}
