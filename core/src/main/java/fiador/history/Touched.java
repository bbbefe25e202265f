package fiador.history;

import java.util.Set;

/**
 * What a change of facts was about, as far as it takes to tell whom it may concern.
 *
 * @param names the users and roles to whom something was given or from whom it was taken: rights,
 *     memberships, powers, what they own
 * @param things whether things came or went
 * @param all whether it may concern anybody
 */
public record Touched(Set<String> names, boolean things, boolean all) {
  /** A change that may concern anybody. */
  public static final Touched ANYBODY = new Touched(Set.of(), true, true);

  /** With that of another. */
  public Touched {
    names = Set.copyOf(names);
  }
}
