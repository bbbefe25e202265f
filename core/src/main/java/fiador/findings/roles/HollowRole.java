package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.LaterGrant;
import fiador.grants.Sights;
import fiador.predicates.Expression;
import fiador.predicates.PredicateText;
import java.util.HashSet;
import java.util.Set;
import java.util.function.Consumer;

/**
 * Roles that people hold and that give nothing: no grant, no role, no power, and no policy asks.
 */
public final class HollowRole implements Check {
  static final Asked ASKED =
      new Asked(
          "hollow-role",
          Severity.LOW,
          "Which roles do people hold although they give nothing?",
          "Give the role what it was made for, or drop it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Set<Integer> others = meant(facts);
    for (int role = 1; role < facts.people.size(); role++) {
      boolean held = facts.isRole(role) && facts.isHeldByUsers(role);
      boolean hollow = held && !others.contains(role) && givesNothing(facts, role);
      if (hollow && !isNamedInPolicies(facts, role)) {
        found.accept(
            Finding.about(ASKED, role, Phrase.of("is held and gives nothing"))
                .concerns(facts.usersOf(role)));
      }
    }
  }

  private static boolean givesNothing(Facts facts, int role) {
    return facts.people.powers(role) == 0
        && facts.access.grants().byGrantee().run(role).length == 0
        && facts.access.denials().byGrantee().run(role).length == 0
        && facts.access.memberships().rolesOf().run(role).length == 0
        && facts.tree.owned().run(role).length == 0;
  }

  /** Roles that are there for something else: what comes later, patterns, row rules, seals. */
  private static Set<Integer> meant(Facts facts) {
    Set<Integer> found = new HashSet<>();
    for (LaterGrant later : facts.access.later()) {
      later.given().forEach(given -> found.add(given.grantee()));
    }
    facts.access.patterns().forEach(pattern -> found.add(pattern.grantee()));
    Sights sights = facts.access.sights();
    for (Sights.Filter filter : sights.filters().values()) {
      filter.rules().forEach(rule -> found.addAll(rule.roles()));
    }
    sights.seals().forEach(seal -> found.addAll(seal.openTo()));
    return found;
  }

  /** A policy may show more, or exempt, whoever holds a role that gives nothing else. */
  private static boolean isNamedInPolicies(Facts facts, int role) {
    String held = PredicateText.of(new Expression.Holds(facts.people.name(role)));
    return facts.access.sights().kept().values().stream()
        .anyMatch(kept -> kept.policies().contains(held));
  }
}
