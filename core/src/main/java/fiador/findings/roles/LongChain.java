package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Roles that come over many others. */
public final class LongChain implements Check {
  public static final Asked ASKED =
      new Asked(
          "long-chain",
          Severity.LOW,
          "Who holds something over so many roles that nobody can follow it?",
          "Give the role at the end more directly.");

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
      // nearest first, so the last one is the farthest
      IntArrayList all = facts.reach.up(user);
      int farthest = all.getInt(all.size() - 1);
      if (all.size() > facts.limits.chainLength() + 1) {
        IntArrayList chain = facts.reach.chain(user, farthest);
        if (chain.size() - 1 > facts.limits.chainLength()) {
          Phrase said = Phrase.of("holds ").who(farthest);
          found.accept(
              Finding.about(ASKED, user, said.say(" over " + (chain.size() - 1) + " roles"))
                  .concerns(IntArrayList.of(user))
                  .through(chain));
        }
      }
    }
  }
}
