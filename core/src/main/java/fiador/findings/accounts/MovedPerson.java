package fiador.findings.accounts;

import fiador.evidence.Identities.Identity;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.PeopleOfAccounts;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Memberships;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;

/** People who work elsewhere now and hold roles that nobody else there has. */
public final class MovedPerson implements Check {
  public static final Asked ASKED =
      new Asked(
          "moved-person",
          Severity.MEDIUM,
          "Who moved to another unit and still has roles that nobody else has there?",
          "Ask the new manager in a review; take what belonged to the old work.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (facts.identities == null || facts.identities.before().isEmpty()) {
      return;
    }
    PeopleOfAccounts list = new PeopleOfAccounts(facts);
    Map<Identity, IntArrayList> accounts = list.accounts();
    Map<String, Map<Integer, Set<Identity>>> holders = holders(facts, accounts);
    accounts.forEach(
        (person, theirs) -> {
          String unit = facts.identities.before().get(person.key());
          boolean moved = unit != null && person.unit() != null && !unit.equals(person.unit());
          for (int user : moved && person.active() ? theirs : new IntArrayList()) {
            Set<Integer> alone = new LinkedHashSet<>();
            for (int role : roles(facts, user)) {
              if (holders.get(person.unit()).get(role).size() == 1) {
                alone.add(role);
              }
            }
            if (!alone.isEmpty()) {
              Phrase said =
                  Phrase.of(
                      "moved from " + unit + " to " + person.unit() + ", where nobody else has ");
              found.accept(
                  Finding.about(ASKED, user, said.whoOf(alone)).concerns(IntArrayList.of(user)));
            }
          }
        });
  }

  /** Who has which role, by unit. */
  private static Map<String, Map<Integer, Set<Identity>>> holders(
      Facts facts, Map<Identity, IntArrayList> accounts) {
    Map<String, Map<Integer, Set<Identity>>> holders = new HashMap<>();
    accounts.forEach(
        (person, theirs) -> {
          for (int user : theirs) {
            for (int role : roles(facts, user)) {
              holders
                  .computeIfAbsent(person.unit(), fresh -> new HashMap<>())
                  .computeIfAbsent(role, fresh -> new HashSet<>())
                  .add(person);
            }
          }
        });
    return holders;
  }

  private static Set<Integer> roles(Facts facts, int user) {
    Memberships memberships = facts.access.memberships();
    Set<Integer> roles = new LinkedHashSet<>();
    for (int edge : memberships.rolesOf().run(user)) {
      roles.add(memberships.role(edge));
    }
    return roles;
  }
}
