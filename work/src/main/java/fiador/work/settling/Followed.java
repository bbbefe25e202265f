package fiador.work.settling;

import fiador.changes.steps.Step;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What came of going on with the last settlement, or of taking it back.
 *
 * @param steps the steps that were carried out, or would be
 * @param gone how many are about what was dropped since
 * @param complete whether a survey afterwards shows all of it
 * @param stop how it was stopped; null where it was not
 */
public record Followed(
    State state, List<Step> steps, int gone, boolean complete, @Nullable Stop stop) {
  /** How it ended. */
  public enum State {
    /** The last settlement had come to its end: nothing is left of it. */
    NOTHING_LEFT,
    /** The last settlement had been refused: it changed nothing. */
    WAS_REFUSED,
    /** Steps are about what was dropped since, and nothing was changed now. */
    GONE,
    /** Only looked at. */
    PLANNED,
    /** All steps were carried out. */
    DONE,
    /** Some steps were. */
    STOPPED
  }

  static Followed of(State state) {
    return new Followed(state, List.of(), 0, false, null);
  }
}
