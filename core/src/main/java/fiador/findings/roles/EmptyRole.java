package fiador.findings.roles;

import fiador.changes.steps.DropRole;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.util.List;
import java.util.function.Consumer;

/** Roles that no user holds. */
public final class EmptyRole implements Check {
  static final Asked ASKED =
      new Asked(
          "empty-role",
          Severity.LOW,
          "Which roles does nobody hold?",
          "Give the role to those it was made for, or drop it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int role = 1; role < facts.people.size(); role++) {
      if (facts.isRole(role) && !facts.isHeldByUsers(role) && !owns(facts, role)) {
        found.accept(
            Finding.about(ASKED, role, Phrase.of("is held by nobody"))
                .mendedBy(List.of(new DropRole(facts.people.name(role)))));
      }
    }
  }

  /** A role may be there only to own things. */
  private static boolean owns(Facts facts, int role) {
    return facts.tree.owned().from(role) < facts.tree.owned().to(role);
  }
}
