package fiador.history;

import java.util.Set;

/**
 * What a change of facts was about, as far as it takes to tell whom it may concern.
 *
 * @param names the users and roles to whom something was given or from whom it was taken: rights,
 *     memberships, powers, what they own
 * @param things whether things came or went
 * @param all whether it may concern anybody
 * @param tables where rights on tables changed and nothing else: those tables, by their numbers,
 *     which are the same before and after; nobody holds anything else on what is not among them.
 *     None where that cannot be said
 */
public record Touched(Set<String> names, boolean things, boolean all, Set<Integer> tables) {
  /** A change that may concern anybody. */
  public static final Touched ANYBODY = new Touched(Set.of(), true, true, Set.of());

  /** With that of another. */
  public Touched {
    names = Set.copyOf(names);
    tables = Set.copyOf(tables);
  }
}
