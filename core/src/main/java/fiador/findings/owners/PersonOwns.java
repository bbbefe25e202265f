package fiador.findings.owners;

import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Things that belong to a user and not to a role. */
public final class PersonOwns implements Check {
  static final Asked ASKED =
      new Asked(
          "person-owns",
          Severity.MEDIUM,
          "What belongs to a single account, and would be stuck when that person leaves?",
          "Give it to a role that owns the schema.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int user = 1; user < facts.people.size(); user++) {
      if (!facts.isUser(user)) {
        continue;
      }
      IntArrayList owned = new IntArrayList();
      for (int node : facts.tree.owned().run(user)) {
        if (!facts.tree.isSystem(node)) {
          owned.add(node);
        }
      }
      if (!owned.isEmpty()) {
        Phrase said = Phrase.of("owns ").kindAndWhere(owned.getInt(0));
        said.say(owned.size() > 1 ? " and " + (owned.size() - 1) + " more" : "");
        found.accept(
            Finding.about(ASKED, user, said)
                .concerns(IntArrayList.of(user))
                .mendedBy(steps(facts, user, owned)));
      }
    }
  }

  private static List<Step> steps(Facts facts, int user, IntArrayList owned) {
    List<Step> steps = new ArrayList<>();
    for (int node : owned) {
      int schema = facts.tree.enclosing(node, NodeKind.SCHEMA);
      int usual = schema < 0 || schema == node ? -1 : OddOwner.usualOwner(facts, schema);
      if (usual >= 0 && !facts.people.isUser(usual)) {
        steps.add(
            new ChangeOwner(
                facts.taking.on(node), facts.people.name(usual), facts.people.name(user)));
      }
    }
    return steps;
  }
}
