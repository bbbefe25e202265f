package fiador.report.page;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a page shows beside the estate itself.
 *
 * @param findings what is wrong; of a part of the estate only what is about that part is taken
 * @param notLooked what was not looked at for findings; null where all was
 * @param gap what settling the charter would change for people; null where there is no charter
 * @param after the estate as it would be then, in which new users have names; null without a gap
 * @param history what changed, the newest first; only whole estates have one
 */
public record Beside(
    List<Finding> findings,
    @Nullable String notLooked,
    @Nullable List<Change> gap,
    @Nullable Access after,
    List<Past> history) {

  /** Nothing at all. */
  public static final Beside NOTHING = new Beside(List.of(), null, null, null, List.of());

  /**
   * A change that is past.
   *
   * @param when between which surveys, and by whom as far as that is known
   * @param lines what came and went
   */
  public record Past(String when, List<String> lines) {}
}
