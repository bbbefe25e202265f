package fiador.changes.planning;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Puts steps about roles that bring denials into an order in which nobody meanwhile can do what
 * they can neither before all of it nor after. Where there is no such order, it is left as it
 * stands. Cost: the square of the steps, times what each does to people.
 */
final class SafeOrder {
  /** With more of them, it would take too long; they stay as they stand. */
  private static final int MOST = 40;

  private final Access before;
  private final Access after;
  private final Clock clock;

  /**
   * @param before as it is before all steps
   * @param after as it is after all steps
   */
  SafeOrder(Access before, Access after, Clock clock) {
    this.before = before;
    this.after = after;
    this.clock = clock;
  }

  /**
   * The steps in such an order.
   *
   * @param now as it is when the first of them is carried out
   */
  List<Step> of(Access now, List<Step> steps) {
    if (steps.size() < 2 || steps.size() > MOST) {
      return steps;
    }
    List<Step> left = new ArrayList<>(steps);
    List<Step> ordered = new ArrayList<>();
    Access at = now;
    while (!left.isEmpty()) {
      int next = 0;
      while (next < left.size() && opens(at, left.get(next))) {
        next++;
      }
      Step step = left.remove(next == left.size() ? 0 : next);
      ordered.add(step);
      at = Outcome.of(at, List.of(step)).after();
    }
    return ordered;
  }

  private boolean opens(Access at, Step step) {
    Outcome.Result then = Outcome.of(at, List.of(step));
    return PeopleEffects.gains(at, then, clock).stream()
        .anyMatch(gain -> !works(after, gain) && !works(before, gain));
  }

  private boolean works(Access then, Change gain) {
    if (gain.user() >= then.principals().size()) {
      return false;
    }
    BitSet wanted = new BitSet();
    wanted.set(0, Math.max(1, then.tree().columns(gain.node())));
    if (gain.columns() != null) {
      wanted = (BitSet) gain.columns().clone();
    }
    for (Holding row : new Holdings(then, clock, true).at(gain.user(), gain.node())) {
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
