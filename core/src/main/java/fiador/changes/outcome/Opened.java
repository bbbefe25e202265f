package fiador.changes.outcome;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.grants.Access;
import java.time.Clock;
import java.util.BitSet;
import java.util.List;

/**
 * What a step on the way opens for a moment: what somebody can do then and neither before all of it
 * nor after. Cost: what the step does to people.
 */
public final class Opened {
  private final Access before;
  private final Access after;
  private final Holdings held;
  private final Holdings kept;
  private final Clock clock;

  /**
   * Between two states.
   *
   * @param before as it is before all steps
   * @param after as it is after all steps
   */
  public Opened(Access before, Access after, Clock clock) {
    this.before = before;
    this.after = after;
    this.held = new Holdings(before, clock, true);
    this.kept = new Holdings(after, clock, true);
    this.clock = clock;
  }

  /** What a step opens where it is carried out now. */
  public List<Change> by(Access now, Step step) {
    Outcome.Result then = Outcome.of(now, List.of(step));
    return PeopleEffects.gains(now, then, clock).stream()
        .filter(gain -> !works(after, kept, gain) && !works(before, held, gain))
        .toList();
  }

  private static boolean works(Access then, Holdings holdings, Change gain) {
    if (gain.user() >= then.principals().size() || gain.node() >= then.tree().size()) {
      return false;
    }
    BitSet wanted = new BitSet();
    wanted.set(0, Math.max(1, then.tree().columns(gain.node())));
    if (gain.columns() != null) {
      wanted = (BitSet) gain.columns().clone();
    }
    for (Holding row : holdings.at(gain.user(), gain.node())) {
      if (row.privilege() == gain.privilege() && row.state().works()) {
        if (row.columns() == null) {
          return true;
        }
        wanted.andNot(row.columns());
      }
    }
    return wanted.isEmpty();
  }
}
