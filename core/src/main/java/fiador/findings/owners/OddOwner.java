package fiador.findings.owners;

import fiador.changes.steps.ChangeOwner;
import fiador.estate.NodeKind;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import java.util.List;
import java.util.function.Consumer;

/** Objects whose owner is not the one of the rest of the schema. */
public final class OddOwner implements Check {
  static final Asked ASKED =
      new Asked(
          "odd-owner",
          Severity.MEDIUM,
          "Which objects were made by the wrong role, so that the right one cannot alter or drop them?",
          "Give the object to the role that owns the others.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (facts.access.rules().ownership() != Ownership.OBJECT) {
      return;
    }
    for (int schema = 0; schema < facts.tree.size(); schema++) {
      if (facts.tree.kind(schema) != NodeKind.SCHEMA || facts.tree.isSystem(schema)) {
        continue;
      }
      int usual = usualOwner(facts, schema);
      for (int node : facts.tree.children().run(schema)) {
        int owner = facts.tree.owner(node);
        if (usual >= 0 && owner >= 0 && owner != usual && !facts.people.isUser(owner)) {
          found.accept(
              Finding.at(
                      ASKED,
                      node,
                      Phrase.of("belongs to ")
                          .who(owner)
                          .say(", the rest of ")
                          .where(schema)
                          .say(" to ")
                          .who(usual))
                  .concerns(facts.usersOf(owner))
                  .mendedBy(
                      List.of(
                          new ChangeOwner(
                              facts.taking.on(node),
                              facts.people.name(usual),
                              facts.people.name(owner)))));
        }
      }
    }
  }

  /** Who owns more than half of what the schema holds; else the schema's own owner. */
  static int usualOwner(Facts facts, int schema) {
    Int2IntOpenHashMap counts = new Int2IntOpenHashMap();
    int[] inside = facts.tree.children().run(schema);
    int best = facts.tree.owner(schema);
    for (int node : inside) {
      int owner = facts.tree.owner(node);
      if (owner >= 0 && counts.addTo(owner, 1) + 1 > inside.length / 2 && inside.length > 1) {
        best = owner;
      }
    }
    return best;
  }
}
