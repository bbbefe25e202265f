package fiador.changes;

import fiador.changes.PeopleEffects.Change;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * An order of steps in which nobody meanwhile holds anything that he holds neither before nor
 * after.
 *
 * <p>Giving first and taking then, nobody holds less than both ends; where the moment between the
 * two brings nobody anything that goes again, nobody holds more than either end, too. Where it
 * does, taking comes first: then nobody ever holds more, though somebody may lack something for a
 * moment that he has before and after. Cost: the effect of the giving steps, beside that of all.
 */
final class SafeOrder {
  private SafeOrder() {}

  /** A gain, whoever and whatever it is about. */
  private record Gain(int user, Object privilege, int node, BitSet columns) {}

  /**
   * The steps in a safe order.
   *
   * @param effects what all of them together do
   */
  static List<Step> of(Access before, List<Step> steps, List<Change> effects, Clock clock) {
    List<Step> first = new ArrayList<>();
    List<Step> gives = new ArrayList<>();
    List<Step> takes = new ArrayList<>();
    List<Step> drops = new ArrayList<>();
    for (Step step : steps) {
      if (step instanceof Step.CreateRole
          || step instanceof Step.CreateUser
          || step instanceof Step.ChangeOwner
          || SightSteps.isFirst(step)) {
        first.add(step);
      } else if (step instanceof Step.DropRole
          || step instanceof Step.DropUser
          || SightSteps.isAbout(step)) {
        drops.add(step);
      } else {
        (isTaking(step) ? takes : gives).add(step);
      }
    }
    if (takes.isEmpty() && drops.isEmpty() || gives.isEmpty()) {
      return steps;
    }
    List<Step> toThePeak = new ArrayList<>(first);
    toThePeak.addAll(gives);
    Set<Gain> lasting = gains(effects);
    Set<Gain> peak = gains(PeopleEffects.of(before, Outcome.of(before, toThePeak), clock));
    if (lasting.containsAll(peak)) {
      return steps;
    }
    List<Step> safe = new ArrayList<>(first);
    safe.addAll(takes);
    safe.addAll(gives);
    safe.addAll(drops);
    return safe;
  }

  private static boolean isTaking(Step step) {
    return step instanceof Step.Revoke
        || step instanceof Step.TakeOption
        || step instanceof Step.TakeRole
        || step instanceof Step.RevokeLater
        || step instanceof Step.LetLogIn login && !login.enabled();
  }

  private static Set<Gain> gains(List<Change> changes) {
    Set<Gain> found = new HashSet<>();
    for (Change change : changes) {
      if (change.isGain()) {
        found.add(new Gain(change.user(), change.privilege(), change.node(), change.columns()));
      }
    }
    return found;
  }
}
