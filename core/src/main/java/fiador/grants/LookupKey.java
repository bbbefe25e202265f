package fiador.grants;

/**
 * What the keys of a lookup table are: names of users, names of roles, or values of an attribute.
 *
 * @param text {@code user}, {@code role} or {@code user.ATTRIBUTE}, as a charter says it
 */
public record LookupKey(String text) {
  /** Names of users. */
  public static final LookupKey USER = new LookupKey("user");

  /** Names of roles. */
  public static final LookupKey ROLE = new LookupKey("role");

  private static final String ATTRIBUTE = "user.";

  /** Whether a charter can say so. */
  public static boolean isOne(String text) {
    return text.equals(USER.text)
        || text.equals(ROLE.text)
        || text.startsWith(ATTRIBUTE) && text.substring(ATTRIBUTE.length()).matches("\\w+");
  }

  /** Whether they are names of users. */
  public boolean namesUsers() {
    return equals(USER);
  }

  /** Whether they are names of roles, which count for whoever holds them. */
  public boolean namesRoles() {
    return equals(ROLE);
  }

  /** The attribute of which they are values. */
  public String attribute() {
    return text.substring(ATTRIBUTE.length());
  }
}
