package fiador.effects;

import org.jspecify.annotations.Nullable;

/**
 * A switch to another role, or to none.
 *
 * @param role the role's name; null for no role at all, which leaves the one behind that is on
 */
public record Switch(@Nullable String role) {
  /** To no role. */
  public static final Switch TO_NONE = new Switch(null);

  /** As a statement, for reading. */
  @Override
  public String toString() {
    return "SET ROLE " + (role == null ? "NONE" : role);
  }
}
