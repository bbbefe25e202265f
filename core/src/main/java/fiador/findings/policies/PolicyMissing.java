package fiador.findings.policies;

import fiador.changes.planning.PoliciesMissing;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.policies.UnderName;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;

/** Tables and columns that should have a policy by the charter, and do not. */
public final class PolicyMissing implements Check {
  public static final Asked ASKED =
      new Asked(
          "policy-missing",
          Severity.HIGH,
          "Which tables came later, or got a label, and lack the policies that are meant for them?",
          "Settle again, which puts the policies there.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Map<Integer, Integer> names = new HashMap<>();
    UnderName.tables(facts.access).forEach((view, table) -> names.put(table, view));
    for (PoliciesMissing one : PoliciesMissing.of(facts.access, facts.expected.demanded())) {
      Set<String> masks = new TreeSet<>();
      one.masks().values().forEach(masks::addAll);
      Phrase said = Phrase.of("lacks ");
      if (!one.rows().isEmpty()) {
        said.say("the row policy " + String.join(", ", one.rows()));
      }
      if (!masks.isEmpty()) {
        said.say(one.rows().isEmpty() ? "" : ", and ")
            .say("the mask " + String.join(", ", masks) + " on ")
            .say(String.join(", ", new TreeSet<>(one.masks().keySet())));
      }
      found.accept(Finding.at(ASKED, names.getOrDefault(one.table(), one.table()), said));
    }
  }
}
