package fiador.findings.policies;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.policies.Bypass;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Consumer;

/** Values that a policy masks and another way shows. */
public final class MaskBypassed implements Check {
  public static final Asked ASKED =
      new Asked(
          "mask-bypassed",
          Severity.HIGH,
          "Who reads values that a policy is to mask for them?",
          "Close the table or the view they come through, or leave the column out of the view.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (Bypass.Way way : facts.bypass()) {
      IntArrayList users = facts.stoppable(way);
      if (!way.columns().isEmpty() && !users.isEmpty()) {
        List<String> clear = new ArrayList<>(way.columns());
        clear.removeAll(way.derived());
        Phrase said = Phrase.of(clear.isEmpty() ? "shows what is worked out of " : "shows ");
        said.columns(way.table(), columns(facts, way, clear.isEmpty() ? way.derived() : clear));
        if (way.path().size() > 1) {
          said.say(" of ").where(way.table());
        }
        said.say(clear.isEmpty() ? " to " : " unmasked to ").whoOf(users);
        // a waiver is for this way round, and for no other one that may come
        found.accept(
            Finding.at(ASKED, way.path().get(0), said)
                .apart(facts.tree.path(way.table()))
                .concerns(users));
      }
    }
  }

  private static BitSet columns(Facts facts, Bypass.Way way, List<String> names) {
    BitSet columns = new BitSet();
    names.forEach(name -> columns.set(facts.tree.columnNamed(way.table(), name)));
    return columns;
  }
}
