package fiador.changes.wanted;

import fiador.grants.AccountName;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The names of a charter as servers store them. */
public final class StoredName {
  private StoredName() {}

  /** Exactly as it is written where it stands in quotes, else folded as the server folds names. */
  public static String of(String name, HouseRules rules) {
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
   * The names of all roles and users of a charter on the server, by what the charter calls them.
   */
  public static Map<String, List<String>> accounts(Wanted wanted, HouseRules rules) {
    Map<String, List<String>> found = new HashMap<>();
    found.put(Wanted.EVERYBODY, List.of(Wanted.EVERYBODY));
    wanted.roles().forEach(role -> found.put(role.name(), List.of(of(role.name(), rules))));
    wanted.users().forEach(user -> found.put(user.name(), accounts(user, rules)));
    return found;
  }
}
