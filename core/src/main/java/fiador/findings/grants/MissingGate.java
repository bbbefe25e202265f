package fiador.findings.grants;

import fiador.changes.steps.Grant;
import fiador.changes.steps.Step;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.rules.Gate;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Privileges that cannot be used for want of a gate. */
public final class MissingGate implements Check {
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
      GateKeys keys = new GateKeys(facts, gate);
      for (int grantee = 1; grantee < facts.people.size(); grantee++) {
        if (facts.isOurs(grantee)) {
          look(facts, gate, keys, grantee, found);
        }
      }
    }
  }

  private void look(Facts facts, Gate gate, GateKeys keys, int grantee, Consumer<Finding> found) {
    IntOpenHashSet seen = new IntOpenHashSet();
    IntArrayList shut = new IntArrayList();
    IntArrayList without = new IntArrayList();
    for (int row : facts.access.grants().byGrantee().run(grantee)) {
      int node = facts.access.grants().node(row);
      int container = facts.tree.enclosing(node, gate.container());
      boolean fresh =
          container >= 0
              && container != node
              && facts.access.stands(gate, container)
              && seen.add(container);
      if (!fresh || facts.tree.isSystem(container) || keys.lets(grantee, container)) {
        continue;
      }
      // of the first all users are named, of the others it is enough that there is one
      boolean first = shut.isEmpty();
      boolean any = false;
      for (int user : facts.usersOf(grantee)) {
        if (!keys.lets(user, container)) {
          any = true;
          if (!first) {
            break;
          }
          without.add(user);
        }
      }
      if (any) {
        shut.add(container);
      }
    }
    if (!shut.isEmpty()) {
      found.accept(finding(facts, gate, grantee, shut).concerns(without));
    }
  }

  private static Finding finding(Facts facts, Gate gate, int grantee, IntArrayList shut) {
    Phrase said = Phrase.of("holds rights in ").kindAndWhere(shut.getInt(0));
    said.say(shut.size() > 1 ? " and " + (shut.size() - 1) + " more" : "");
    said.say(" that do nothing: " + gate.privilege().text() + " on it is missing");
    return Finding.about(ASKED, grantee, said)
        .on(shut.getInt(0))
        .mendedBy(() -> steps(facts, gate, grantee, shut));
  }

  private static List<Step> steps(Facts facts, Gate gate, int grantee, IntArrayList shut) {
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < shut.size(); i++) {
      steps.add(
          new Grant(
              gate.privilege().bit(),
              facts.taking.on(shut.getInt(i)),
              List.of(),
              facts.people.name(grantee),
              false));
    }
    return steps;
  }
}
