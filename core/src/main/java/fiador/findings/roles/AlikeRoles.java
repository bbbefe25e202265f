package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Roles that give exactly the same. */
public final class AlikeRoles implements Check {
  static final Asked ASKED =
      new Asked(
          "alike-roles",
          Severity.LOW,
          "Which roles are the same under two names?",
          "Keep one, give it to the other's members, and drop the other.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Map<List<Long>, Integer> known = new HashMap<>();
    Grants grants = facts.access.grants();
    var memberships = facts.access.memberships();
    for (int role = 1; role < facts.people.size(); role++) {
      if (!facts.isRole(role) || facts.tree.owned().from(role) < facts.tree.owned().to(role)) {
        continue;
      }
      List<Long> gives = new ArrayList<>();
      for (int row : grants.byGrantee().run(role)) {
        gives.add((long) grants.node(row) << 32 | grants.termsId(row));
        gives.add(-2L - grants.columns(row));
      }
      for (int edge : memberships.rolesOf().run(role)) {
        gives.add(Long.MIN_VALUE + memberships.role(edge));
      }
      Integer same = gives.isEmpty() ? null : known.putIfAbsent(gives, role);
      if (same != null) {
        found.accept(
            Finding.about(ASKED, role, Phrase.of("gives exactly what ").who(same).say(" gives"))
                .concerns(facts.usersOf(role)));
      }
    }
  }
}
