package fiador.findings.roles;

import fiador.changes.steps.GiveRole;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.SealedThings;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.List;
import java.util.function.Consumer;

/** Roles the administrators' umbrella does not hold. */
public final class OutsideUmbrella implements Check {
  static final Asked ASKED =
      new Asked(
          "outside-umbrella",
          Severity.LOW,
          "Which roles have slipped out of the administrators' sight?",
          "Give the role to the umbrella, or seal what it opens.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    int umbrella = facts.umbrella();
    if (umbrella < 0) {
      return;
    }
    IntOpenHashSet under = new IntOpenHashSet(facts.reach.up(umbrella));
    SealedThings seals = new SealedThings(facts);
    for (int role = 1; role < facts.people.size(); role++) {
      if (facts.isRole(role) && !under.contains(role) && !seals.opens(role)) {
        found.accept(
            Finding.about(ASKED, role, Phrase.of("is not under the umbrella ").who(umbrella))
                .concerns(facts.usersOf(role))
                .mendedBy(
                    List.of(new GiveRole(facts.people.name(role), facts.people.name(umbrella)))));
      }
    }
  }
}
