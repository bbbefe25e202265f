package fiador.changes.planning;

import fiador.changes.steps.LimitAccount;
import fiador.changes.wanted.Wanted;
import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.grants.rules.HouseRules;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What has to be done so that a server keeps accounts to the limits a charter says. */
final class LimitPlanner {
  private final HouseRules rules;
  private final Set<String> notes;

  LimitPlanner(HouseRules rules, Set<String> notes) {
    this.rules = rules;
    this.notes = notes;
  }

  /**
   * The step for one account; null where there is nothing to do, and where the charter says
   * nothing.
   *
   * @param name the account's name on the server
   * @param before as it is there
   */
  @Nullable LimitAccount limit(Wanted.Principal wanted, String name, Account before) {
    Map<AccountLimit, Integer> said = wanted.login().limits();
    if (said == null) {
      return null;
    }
    Map<AccountLimit, Integer> after = new EnumMap<>(AccountLimit.class);
    List<String> unknown = new ArrayList<>();
    AccountLimit.inOrder(said)
        .forEach(
            (limit, value) -> {
              if (rules.accountLimits().contains(limit)) {
                after.put(limit, value);
              } else {
                unknown.add(limit.text());
              }
            });
    if (!unknown.isEmpty()) {
      notes.add(
          rules.kind()
              + " keeps no account to "
              + String.join(", ", unknown)
              + ": that limit of "
              + wanted.name()
              + " is not set there");
    }
    int line = before.limits().getOrDefault(AccountLimit.ENCRYPTED, 0);
    if (line == AccountLimit.BY_CERTIFICATE) {
      if (!after.containsKey(AccountLimit.ENCRYPTED)) {
        notes.add(
            wanted.name()
                + " has to show a certificate, which is left as it is: a charter says nothing of"
                + " certificates");
      }
      after.put(AccountLimit.ENCRYPTED, line);
    }
    return after.equals(before.limits())
        ? null
        : new LimitAccount(name, Map.copyOf(before.limits()), Map.copyOf(after));
  }
}
