package fiador.findings.policies;

import fiador.changes.Seals;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.policies.Sealing;
import fiador.policies.Sealing.Passing;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Users who reach what a seal closes to them. */
public final class SealPassed implements Check {
  static final Asked ASKED =
      new Asked(
          "seal-passed",
          Severity.HIGH,
          "Who reaches what is sealed, without being named by the seal?",
          "Take the privilege away; where a power opens it, take that or accept it by a waiver.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  private static boolean isIn(Facts facts, Passing one) {
    return !facts.tree.kind(one.node()).isObject();
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Sealing sealing = new Sealing(facts.access, facts.clock);
    for (Seal seal : facts.expected.seals()) {
      Map<Integer, Passing> firsts = new TreeMap<>();
      sealing.passing(
          Seals.found(facts.access, seal),
          one -> {
            if (facts.isUser(one.user())) {
              // a thing says more than the schema it is in
              firsts.merge(
                  one.user(), one, (a, b) -> b.node() > a.node() && isIn(facts, a) ? b : a);
            }
          });
      firsts.forEach(
          (user, one) -> {
            Phrase said =
                Phrase.of("passes the seal " + seal.name() + ": " + one.privilege().text());
            found.accept(
                Finding.about(ASKED, user, said.say(" on ").where(one.node()))
                    .apart(seal.name())
                    .concerns(IntArrayList.of(user)));
          });
    }
  }
}
