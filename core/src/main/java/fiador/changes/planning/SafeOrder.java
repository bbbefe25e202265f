package fiador.changes.planning;

import fiador.changes.outcome.Opened;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Step;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;

/**
 * Puts steps about roles that bring denials into an order in which nobody meanwhile can do what
 * they can neither before all of it nor after. Where there is no such order, it is left as it
 * stands; what would open is denied meanwhile then, by who puts all steps in order. Cost: the
 * square of the steps, times what each does to people.
 */
final class SafeOrder {
  /** With more of them, it would take too long; they stay as they stand. */
  private static final int MOST = 40;

  private final Opened opened;

  /**
   * @param before as it is before all steps
   * @param after as it is after all steps
   */
  SafeOrder(Access before, Access after, Clock clock) {
    this.opened = new Opened(before, after, clock);
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
      while (next < left.size() && !opened.by(at, left.get(next)).isEmpty()) {
        next++;
      }
      Step step = left.remove(next == left.size() ? 0 : next);
      ordered.add(step);
      at = Outcome.of(at, List.of(step)).after();
    }
    return ordered;
  }
}
