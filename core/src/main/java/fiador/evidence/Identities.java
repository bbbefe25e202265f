package fiador.evidence;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The people and services that an organisation knows.
 *
 * @param people all of them
 * @param before the unit each worked in at an earlier time, by key; empty where that is not known
 */
public record Identities(List<Identity> people, Map<String, String> before) {
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
      String key,
      String name,
      boolean active,
      String manager,
      String unit,
      List<String> accounts) {}
}
