package fiador.changes.wanted;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What the users of a charter are called on its servers, where they are not called everywhere as
 * the charter calls them.
 *
 * @param users all users, as the charter calls them
 * @param of by user and server; a user who stands here has no account on a server that does not
 */
public record Accounts(List<String> users, Map<String, Map<String, Account>> of) {
  /** Nobody is known to be called otherwise anywhere. */
  public static final Accounts SAME = new Accounts(List.of(), Map.of());

  /**
   * An account.
   *
   * @param name as a charter writes names
   * @param hosts from where, on servers that tell accounts apart by that; none said: as the user's
   */
  public record Account(String name, List<String> hosts) {}

  /** Whether the user has an account on the server. */
  public boolean isOn(String server, String user) {
    Map<String, Account> own = of.get(user);
    return own == null || own.containsKey(server);
  }

  /**
   * What is written of all accounts of a user: {@code server:account}, or a name for everywhere.
   */
  public List<String> written(String user) {
    Map<String, Account> own = of.get(user);
    if (own == null) {
      return List.of(CharterSubjects.unquoted(user));
    }
    List<String> found = new ArrayList<>();
    own.forEach(
        (server, account) -> {
          String name = server + ":" + CharterSubjects.unquoted(account.name());
          if (account.hosts().isEmpty()) {
            found.add(name);
          }
          account.hosts().forEach(host -> found.add(name + "@" + host));
        });
    return found;
  }

  /** The user's account there, where the charter says which; else null. */
  public @Nullable Account on(String server, String user) {
    Map<String, Account> own = of.get(user);
    return own == null ? null : own.get(server);
  }
}
