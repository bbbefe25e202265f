package fiador.servers.mariadb;

import fiador.estate.EstateBuilder;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.grants.AccessBuilder;
import fiador.grants.AccountName;
import fiador.grants.Accounts;
import fiador.grants.rules.HouseRules;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** What the readers of one survey share: the builder, and what became of the catalog's names. */
final class Catalog {
  private final AccessBuilder builder = new AccessBuilder();
  private final HouseRules rules;
  private final Map<AccountName, Integer> accounts = new HashMap<>();
  private final Map<String, Integer> roles = new HashMap<>();
  private final Map<List<String>, Integer> nodes = new HashMap<>();
  private final Set<String> unseen = new TreeSet<>();

  Catalog(HouseRules rules) {
    this.rules = rules;
    roles.put("PUBLIC", Principals.PUBLIC);
  }

  AccessBuilder builder() {
    return builder;
  }

  EstateBuilder estate() {
    return builder.estate();
  }

  HouseRules rules() {
    return rules;
  }

  void account(AccountName account, int principal) {
    accounts.put(account, principal);
  }

  void role(String name, int principal) {
    roles.put(name, principal);
  }

  /** A grantee as the grant tables write it: roles and PUBLIC have no host. Null if not known. */
  Integer grantee(String user, String host) {
    Integer account = accounts.get(new AccountName(user, host));
    return account == null && host.isEmpty() ? roles.get(user) : account;
  }

  /** A definer as the catalog writes it; -1 if nobody acts for them any more. */
  int definer(String written) {
    int at = written.lastIndexOf('@');
    if (at < 0 || at == written.length() - 1) {
      return roles.getOrDefault(at < 0 ? written : written.substring(0, at), None.PRINCIPAL);
    }
    AccountName named = AccountName.of(written);
    AccountName acting =
        accounts.containsKey(named) ? named : Accounts.standIn(named, accounts.keySet());
    return acting == null ? -1 : accounts.get(acting);
  }

  /** Whether the account that a definer is written as is still there. */
  boolean isThere(String definer) {
    return grantee(
            definer.substring(0, Math.max(0, definer.lastIndexOf('@'))),
            definer.substring(definer.lastIndexOf('@') + 1))
        != null;
  }

  /** Grants speak of something that is not there, or that the login is not shown. */
  void unseen(String schema, String name) {
    unseen.add(schema + "." + name);
  }

  /** What grants speak of and was not seen. */
  Set<String> unseen() {
    return unseen;
  }

  void node(int node, String... path) {
    nodes.put(List.of(path), node);
  }

  /** The node of a path, its last part of a routine with the type before it; -1 if not known. */
  int node(String... path) {
    return nodes.getOrDefault(List.of(path), None.NODE);
  }
}
