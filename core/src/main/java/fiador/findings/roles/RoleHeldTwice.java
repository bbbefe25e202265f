package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Redundancy;
import fiador.findings.check.Severity;
import java.util.function.Consumer;

/** Roles given directly that come through another role anyway. */
public final class RoleHeldTwice implements Check {
  public static final Asked ASKED =
      new Asked(
          "role-held-twice",
          Severity.LOW,
          "Who was given a role that another of its roles brings along?",
          "Take the role that was given directly away; nobody loses anything.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Redundancy redundancy = new Redundancy(facts);
    var memberships = facts.access.memberships();
    int umbrella = facts.umbrella();
    for (int member = 1; member < facts.people.size(); member++) {
      // the umbrella holds every role by design
      if (!facts.isOurs(member) || member == umbrella) {
        continue;
      }
      for (int edge : memberships.rolesOf().run(member)) {
        int through = redundancy.edgeCoveredBy(edge);
        if (through >= 0) {
          found.accept(
              Finding.about(
                      ASKED,
                      member,
                      Phrase.of("holds ")
                          .who(memberships.role(edge))
                          .say(" directly, and already through ")
                          .who(through))
                  .apart(facts.people.name(memberships.role(edge)))
                  .mendedBy(java.util.Collections.singletonList(facts.taking.leave(edge))));
        }
      }
    }
  }
}
