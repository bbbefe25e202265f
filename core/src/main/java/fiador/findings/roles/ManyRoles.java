package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** People with very many roles of their own. */
public final class ManyRoles implements Check {
  static final Asked ASKED =
      new Asked(
          "many-roles",
          Severity.LOW,
          "Who has collected so many roles that nobody remembers why?",
          "Make a duty role of what the work needs, and take the rest away.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    var roles = facts.access.memberships().rolesOf();
    for (int user = 1; user < facts.people.size(); user++) {
      int count = roles.to(user) - roles.from(user);
      if (facts.isUser(user) && count > facts.limits.rolesPerPerson()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("was given " + count + " roles one by one"))
                .concerns(IntArrayList.of(user)));
      }
    }
  }
}
