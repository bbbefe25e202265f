package fiador.findings.policies;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Policies that were changed by hand or switched off on the server. */
public final class PolicyChanged implements Check {
  public static final Asked ASKED =
      new Asked(
          "policy-changed",
          Severity.HIGH,
          "Which policies are no longer what was agreed on?",
          "Settle again, which puts the policy back.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    new TreeMap<>(facts.access.sights().kept())
        .forEach(
            (node, kept) -> {
              if (!kept.asMade()) {
                Phrase said = Phrase.of("keeps the policies of ").where(kept.table());
                found.accept(Finding.at(ASKED, node, said.say(" and was changed by hand")));
              }
            });
    new TreeMap<>(facts.access.sights().filters())
        .forEach(
            (table, filter) -> {
              if (!filter.enabled() && !filter.rules().isEmpty()) {
                String rules = "has row rules that are switched off: ";
                found.accept(
                    Finding.at(ASKED, table, Phrase.of(rules + filter.rules().get(0).name()))
                        .apart("rules"));
              }
            });
  }
}
