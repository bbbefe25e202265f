package fiador.changes.outcome;

import fiador.changes.steps.Deny;
import fiador.changes.steps.Step;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/**
 * Denials among steps that are there for a moment, with what lifts them. Whether one stands tells
 * nothing of how far the steps came: what it guards, the steps between the two, does.
 */
final class ForAMoment {
  private final List<Step> steps;
  private final Predicate<Step> done;

  /**
   * @param done whether the server shows a step
   */
  ForAMoment(List<Step> steps, Predicate<Step> done) {
    this.steps = steps;
    this.done = done;
  }

  /** Whether the step at that place makes or lifts such a denial, and the other is there too. */
  boolean has(int at) {
    return steps.get(at) instanceof Deny deny && deny.brief() && other(at, deny) >= 0;
  }

  private int other(int at, Deny deny) {
    Step wanted = deny.inverse();
    int way = deny.lifted() ? -1 : 1;
    for (int other = at + way; other >= 0 && other < steps.size(); other += way) {
      if (steps.get(other).equals(wanted)) {
        return other;
      }
    }
    return -1;
  }

  /** Whether the step at that place is still to be carried out. */
  boolean isMissing(int at) {
    Deny deny = (Deny) steps.get(at);
    boolean guards = between(at, deny, step -> !done.test(step));
    return deny.lifted() ? guards || !done.test(deny) : guards && !done.test(deny);
  }

  /** Whether the step at that place is to be taken back, where those that took effect are. */
  boolean isTakenBack(int at) {
    Deny deny = (Deny) steps.get(at);
    boolean guards = between(at, deny, done);
    // denied once more before what it guards is taken back, and lifted then
    return deny.lifted() ? guards && done.test(deny) : guards || done.test(deny);
  }

  /**
   * What lifts those that still stand.
   *
   * @param meanwhile steps that are carried out in any case; what they lift is left out
   */
  List<Step> lifts(List<Step> meanwhile) {
    List<Step> lifts = new ArrayList<>();
    for (Step step : steps) {
      if (step instanceof Deny deny && deny.brief() && !deny.lifted() && done.test(deny)) {
        Deny lift = deny.inverse();
        if (!lifts.contains(lift) && !meanwhile.contains(lift.toStay())) {
          lifts.add(lift);
        }
      }
    }
    return lifts;
  }

  private boolean between(int at, Deny deny, Predicate<Step> which) {
    int other = other(at, deny);
    return steps.subList(Math.min(at, other) + 1, Math.max(at, other)).stream()
        .anyMatch(step -> !(step instanceof Deny each && each.brief()) && which.test(step));
  }
}
