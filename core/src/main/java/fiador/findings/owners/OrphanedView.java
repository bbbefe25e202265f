package fiador.findings.owners;

import fiador.estate.NodeFact;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.util.function.Consumer;

/** Views and routines whose account is gone. */
public final class OrphanedView implements Check {
  static final Asked ASKED =
      new Asked(
          "orphaned-view",
          Severity.MEDIUM,
          "Which views and routines act with the rights of an account that is no longer there?",
          "Make it anew with an owner that stays.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int node = 0; node < facts.tree.size(); node++) {
      boolean gone = facts.tree.is(node, NodeFact.ORPHANED);
      if ((gone || facts.tree.is(node, NodeFact.DEPUTIZED)) && !facts.tree.isSystem(node)) {
        String what =
            gone
                ? "is to act with the rights of an account that is gone, and fails"
                : "acts with the rights of another account than the one it was made by";
        found.accept(Finding.at(ASKED, node, Phrase.of(what)));
      }
    }
  }
}
