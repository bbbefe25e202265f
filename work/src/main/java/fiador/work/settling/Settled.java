package fiador.work.settling;

import fiador.changes.Gap;
import fiador.changes.steps.Step;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What came of settling.
 *
 * @param gap what was to be done; null where that was not worked out
 * @param steps what was carried out, or was to be
 * @param left what is still to be done by a survey afterwards
 * @param stop how it was stopped; null where it was not
 */
public record Settled(
    State state, @Nullable Gap gap, List<Step> steps, List<Step> left, @Nullable Stop stop) {
  /** How it ended. */
  public enum State {
    /** There was nothing to do. */
    AS_WANTED,
    /** The last settlement was stopped half-way; nothing was changed now. */
    UNFINISHED,
    /** All steps were carried out. */
    DONE,
    /** Some steps were. */
    STOPPED
  }

  static Settled of(State state, @Nullable Gap gap) {
    return new Settled(state, gap, List.of(), List.of(), null);
  }
}
