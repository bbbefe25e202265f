package fiador.findings.accounts;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Disabled accounts that still hold things. */
public final class DisabledHolder implements Check {
  static final Asked ASKED =
      new Asked(
          "disabled-holder",
          Severity.LOW,
          "Which accounts are disabled and would have everything back when somebody enables them?",
          "Take the roles and grants, or drop the account.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    var grants = facts.access.grants().byGrantee();
    var roles = facts.access.memberships().rolesOf();
    for (int user = 1; user < facts.people.size(); user++) {
      int held = grants.to(user) - grants.from(user) + roles.to(user) - roles.from(user);
      if (facts.isUser(user) && facts.people.account(user).disabled() && held > 0) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("is disabled and still holds roles or grants"))
                .concerns(IntArrayList.of(user)));
      }
    }
  }
}
