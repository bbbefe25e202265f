package fiador.evidence;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.CharterSubjects;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The people and services that an organisation knows.
 *
 * @param people all of them
 * @param before the unit each worked in at an earlier time, by key; empty where that is not known
 */
public record Identities(List<Identity> people, Map<String, String> before) {
  /** A list that nobody is on. */
  public static final Identities NOBODY = new Identities(List.of());

  /** Without knowing what was before. */
  public Identities(List<Identity> people) {
    this(people, Map.of());
  }

  /** The same, with an older list to compare with. */
  public Identities after(Identities older) {
    Map<String, String> units = new HashMap<>();
    for (Identity person : older.people()) {
      if (person.unit() != null) {
        units.put(person.key(), person.unit());
      }
    }
    return new Identities(people, units);
  }

  /**
   * The same with what a charter says of its users' accounts: a user is the person with that key or
   * that account, and else somebody whom the list does not have.
   */
  public Identities joined(Accounts accounts) {
    List<Identity> all = new ArrayList<>(people);
    Map<String, Integer> called = new HashMap<>();
    for (int at = 0; at < people.size(); at++) {
      called.putIfAbsent(folded(people.get(at).key()), at);
      for (String account : people.get(at).accounts()) {
        called.putIfAbsent(folded(account), at);
      }
    }
    for (String user : accounts.users()) {
      String name = CharterSubjects.unquoted(user);
      Integer at = called.get(folded(name));
      if (at == null) {
        all.add(new Identity(name, name, true, null, null, accounts.written(user)));
      } else if (accounts.of().containsKey(user)) {
        all.set(at, all.get(at).with(accounts.written(user)));
      }
    }
    return new Identities(List.copyOf(all), before);
  }

  private static String folded(@Nullable String name) {
    return name == null ? "" : name.toLowerCase(Locale.ROOT);
  }

  /**
   * The same as one server knows them: accounts written {@code server:account} lose that server's
   * name; those of other servers stay as they are, and those without a server are meant everywhere.
   */
  public Identities on(String server) {
    String prefix = server + ":";
    List<Identity> there = new ArrayList<>();
    for (Identity person : people) {
      List<String> accounts = new ArrayList<>();
      for (String account : person.accounts()) {
        accounts.add(account.startsWith(prefix) ? account.substring(prefix.length()) : account);
      }
      there.add(
          new Identity(
              person.key(),
              person.name(),
              person.active(),
              person.manager(),
              person.unit(),
              List.copyOf(accounts)));
    }
    return new Identities(List.copyOf(there), before);
  }

  /**
   * Somebody.
   *
   * @param key how the list names it
   * @param name how people call it
   * @param active whether it is still there
   * @param manager the key of whom it reports to, or null
   * @param unit where it works, or null
   * @param accounts the accounts it has; one of a single server as {@code server:account}
   */
  public record Identity(
      String key, String name, boolean active, String manager, String unit, List<String> accounts) {
    private Identity with(List<String> more) {
      List<String> all = new ArrayList<>(accounts);
      all.addAll(more);
      return new Identity(key, name, active, manager, unit, List.copyOf(all));
    }
  }
}
