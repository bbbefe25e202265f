package fiador.findings.check;

import fiador.evidence.Identities.Identity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;

/** Whose each account is; letters' case does not matter. */
public final class PeopleOfAccounts {
  private final Facts facts;
  private final Map<String, Identity> byAccount = new HashMap<>();

  public PeopleOfAccounts(Facts facts) {
    this.facts = facts;
    if (isKnown()) {
      for (Identity person : facts.identities.people()) {
        person.accounts().forEach(account -> byAccount.put(folded(account), person));
      }
    }
  }

  /** Whether there is an identity list at all. */
  public boolean isKnown() {
    return facts.identities != null;
  }

  private static String folded(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** Whose account it is; null for nobody's. */
  public Identity of(int user) {
    Identity whole = byAccount.get(folded(facts.people.name(user)));
    return whole != null ? whole : byAccount.get(folded(facts.bare(user)));
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
