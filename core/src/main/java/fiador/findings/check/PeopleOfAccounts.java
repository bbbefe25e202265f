package fiador.findings.check;

import fiador.evidence.Identities.Identity;
import fiador.evidence.PeopleOf;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.LinkedHashMap;
import java.util.Map;

/** Whose each account is; letters' case does not matter. */
public final class PeopleOfAccounts {
  private final Facts facts;
  private final PeopleOf people;

  public PeopleOfAccounts(Facts facts) {
    this.facts = facts;
    this.people = isKnown() ? new PeopleOf(facts.access, facts.identities) : null;
  }

  /** Whether there is an identity list at all. */
  public boolean isKnown() {
    return facts.identities != null;
  }

  /** Whose account it is; null for nobody's. */
  public Identity of(int user) {
    return people == null ? null : people.of(user);
  }

  /** The accounts of each person, in order. */
  public Map<Identity, IntArrayList> accounts() {
    Map<Identity, IntArrayList> found = new LinkedHashMap<>();
    for (int user = 1; user < facts.people.size(); user++) {
      Identity person = facts.isUser(user) ? of(user) : null;
      if (person != null) {
        found.computeIfAbsent(person, none -> new IntArrayList()).add(user);
      }
    }
    return found;
  }
}
