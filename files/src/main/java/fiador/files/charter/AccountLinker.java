package fiador.files.charter;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.Accounts.Account;
import fiador.changes.wanted.CharterSubjects;
import fiador.estate.Nearest;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import fiador.grants.AccountName;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Checks what users are called on the servers of a charter. */
final class AccountLinker {
  private final Draft draft;
  private final Mistakes mistakes;

  AccountLinker(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
  }

  Accounts link() {
    Map<String, Map<String, Account>> found = new LinkedHashMap<>();
    draft.accounts.forEach(
        (user, written) -> {
          Map<String, Account> own = own(written);
          found.put(user, own);
          // also as reviews name whoever stands in quotes
          found.putIfAbsent(CharterSubjects.unquoted(user), own);
          Scalar was = draft.was.get(user);
          if (was != null) {
            mistakes.add(
                was.place(),
                user
                    + " has \"accounts\"; \"was\" is for those who are called the same everywhere");
          }
        });
    Accounts accounts = new Accounts(List.copyOf(draft.users.keySet()), found);
    draft.servers.keySet().forEach(server -> checkApart(server, accounts));
    return accounts;
  }

  private Map<String, Account> own(Map<Scalar, List<Scalar>> written) {
    Map<String, Account> own = new LinkedHashMap<>();
    written.forEach(
        (server, names) -> {
          Charter.ServerEntry entry = draft.servers.get(server.text());
          if (entry == null) {
            mistakes.add(
                server.place(),
                "there is no server \""
                    + server.text()
                    + "\" in the charter"
                    + Nearest.hint(server.text(), draft.servers.keySet().stream()));
          } else if (names.isEmpty()) {
            mistakes.add(server.place(), "no account is named; leave out a server without one");
          } else {
            own.put(server.text(), account(entry, names));
          }
        });
    return own;
  }

  private Account account(Charter.ServerEntry server, List<Scalar> names) {
    HouseRules rules = server.rules();
    boolean byHost = rules != null && rules.has(HouseFact.ACCOUNTS_BY_HOST);
    String user = null;
    List<String> hosts = new ArrayList<>();
    for (Scalar name : names) {
      boolean host = byHost && name.text().contains("@");
      AccountName account = host ? AccountName.of(name.text()) : null;
      String bare = account == null ? name.text() : account.user();
      if (user != null && !user.equals(bare)) {
        mistakes.add(
            name.place(),
            "a user has one name on a server"
                + (byHost ? ", with one or more hosts" : "")
                + ", and "
                + server.name()
                + " has "
                + user
                + " already");
      }
      user = user == null ? bare : user;
      if (account != null) {
        hosts.add(account.host());
      }
    }
    return new Account(user == null ? "" : user, hosts);
  }

  /** No two of a server's roles and users may be one. */
  private void checkApart(String server, Accounts accounts) {
    Map<String, String> whose = new HashMap<>();
    draft.roles.keySet().forEach(role -> whose.put(folded(role), "the role " + role));
    for (String user : draft.users.keySet()) {
      if (accounts.isOn(server, user) && accounts.on(server, user) == null) {
        whose.putIfAbsent(folded(user), "the user " + user);
      }
    }
    draft.accounts.forEach(
        (user, written) -> {
          Account account = accounts.on(server, user);
          String other =
              account == null
                  ? null
                  : whose.putIfAbsent(folded(account.name()), "the user " + user);
          if (account != null && other != null) {
            Scalar at =
                written.keySet().stream()
                    .filter(key -> key.text().equals(server))
                    .findFirst()
                    .orElseThrow();
            mistakes.add(
                at.place(), account.name() + " on " + server + " is " + other + " already");
          }
        });
  }

  private static String folded(String name) {
    return name.startsWith("\"") ? CharterSubjects.unquoted(name) : name.toLowerCase(Locale.ROOT);
  }
}
