package fiador.changes.wanted;

import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** The names of a charter as servers store them. */
public final class StoredName {
  private StoredName() {}

  /**
   * A user's or role's: exactly as it is written where it stands in quotes, unless the server folds
   * those too, else folded as the server folds names.
   */
  public static String of(String name, HouseRules rules) {
    String thing = thing(name, rules);
    boolean folds = rules.has(HouseFact.FOLDS_QUOTED_PRINCIPALS);
    return folds && !thing.equals(Wanted.EVERYBODY) ? rules.fold(thing) : thing;
  }

  /** A schema's or other thing's: exactly as it is written in quotes, else folded. */
  public static String thing(String name, HouseRules rules) {
    boolean quoted = name.length() > 2 && name.startsWith("\"") && name.endsWith("\"");
    return quoted ? name.substring(1, name.length() - 1).replace("\"\"", "\"") : rules.fold(name);
  }

  /** A user's accounts: several on servers that tell them apart by where they come from. */
  public static List<String> accounts(Wanted.Principal user, HouseRules rules) {
    String bare = of(user.name(), rules);
    if (!rules.has(HouseFact.ACCOUNTS_BY_HOST) || bare.contains("@")) {
      return List.of(bare);
    }
    List<String> hosts = user.login().hosts().isEmpty() ? List.of("%") : user.login().hosts();
    return hosts.stream().map(host -> new AccountName(bare, host).toString()).toList();
  }

  /**
   * The names that all roles and users of a charter have on a server now, by what the charter calls
   * them: the former ones where they are still called so there.
   */
  public static Map<String, List<String>> accounts(Wanted wanted, Access access) {
    Map<String, List<String>> found = new HashMap<>();
    found.put(Wanted.EVERYBODY, List.of(Wanted.EVERYBODY));
    for (Wanted.Principal role : wanted.roles()) {
      found.put(role.name(), current(role, access, one -> List.of(of(one.name(), access.rules()))));
    }
    for (Wanted.Principal user : wanted.users()) {
      found.put(user.name(), current(user, access, one -> accounts(one, access.rules())));
    }
    return found;
  }

  private static List<String> current(
      Wanted.Principal wanted, Access access, Function<Wanted.Principal, List<String>> names) {
    List<String> now = names.apply(wanted);
    boolean there = now.stream().anyMatch(name -> access.principals().named(name) >= 0);
    return there || wanted.was() == null ? now : names.apply(wanted.before());
  }
}
