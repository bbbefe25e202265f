package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** People who may give roles on. */
public final class RoleAdmin implements Check {
  public static final Asked ASKED =
      new Asked(
          "role-admin",
          Severity.MEDIUM,
          "Who may give a role to anybody?",
          "Leave the giving of roles to the administrators: take the admin option.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    var memberships = facts.access.memberships();
    for (int user = 1; user < facts.people.size(); user++) {
      if (!facts.isUser(user)) {
        continue;
      }
      IntArrayList roles = new IntArrayList();
      for (int edge : memberships.rolesOf().run(user)) {
        boolean admin = memberships.options(edge).admin();
        if (admin && facts.isRole(memberships.role(edge)) && !isUmbrella(facts, user)) {
          roles.add(memberships.role(edge));
        }
      }
      if (!roles.isEmpty()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("may give to anybody: ").whoOf(roles))
                .concerns(IntArrayList.of(user)));
      }
    }
  }

  private static boolean isUmbrella(Facts facts, int user) {
    int umbrella = facts.umbrella();
    return umbrella >= 0 && facts.reach.holds(user, umbrella);
  }
}
