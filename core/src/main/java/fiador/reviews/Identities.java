package fiador.reviews;

import java.util.List;

/**
 * The people and services that an organisation knows.
 *
 * @param people all of them
 */
public record Identities(List<Identity> people) {
  /**
   * Somebody.
   *
   * @param key how the list names it
   * @param name how people call it
   * @param active whether it is still there
   * @param manager the key of whom it reports to, or null
   * @param unit where it works, or null
   * @param accounts the accounts it has
   */
  public record Identity(
      String key,
      String name,
      boolean active,
      String manager,
      String unit,
      List<String> accounts) {}
}
