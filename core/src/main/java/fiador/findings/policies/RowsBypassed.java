package fiador.findings.policies;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.policies.Bypass;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Rows that a policy hides and another way shows. */
public final class RowsBypassed implements Check {
  public static final Asked ASKED =
      new Asked(
          "rows-bypassed",
          Severity.HIGH,
          "Who reads rows that a policy is to hide from them?",
          "Close the table or the view they come through, or let the view read as its user.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (Bypass.Way way : facts.bypass()) {
      IntArrayList users = facts.stoppable(way);
      if (way.rows() && !users.isEmpty()) {
        Phrase said = Phrase.of("shows hidden rows");
        said.say(way.path().size() > 1 ? " of " : "");
        if (way.path().size() > 1) {
          said.where(way.table());
        }
        // a waiver is for this way round, and for no other one that may come
        int through = way.path().get(0);
        found.accept(
            Finding.at(ASKED, through, said.say(" to ").whoOf(users))
                .apart(facts.tree.path(way.table()))
                .concerns(users));
      }
    }
  }
}
