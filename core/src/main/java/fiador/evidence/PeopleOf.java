package fiador.evidence;

import fiador.evidence.Identities.Identity;
import fiador.grants.Access;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Whose each account of a server is; letters' case does not matter. */
public final class PeopleOf {
  private final Access access;
  private final Map<String, Identity> byAccount = new HashMap<>();

  /** By a list of people, which may name accounts of other servers too. */
  public PeopleOf(Access access, Identities identities) {
    this.access = access;
    for (Identity person : identities.on(access.about().server()).people()) {
      person.accounts().forEach(account -> byAccount.put(folded(account), person));
    }
  }

  private static String folded(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** Whose account it is; null for nobody's. */
  public @Nullable Identity of(int user) {
    Identity whole = byAccount.get(folded(access.principals().name(user)));
    return whole != null ? whole : byAccount.get(folded(access.bareName(user)));
  }
}
