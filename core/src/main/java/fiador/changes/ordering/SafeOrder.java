package fiador.changes.ordering;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.planning.TakesInOrder;
import fiador.changes.steps.About;
import fiador.changes.steps.AddOption;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.Turn;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * An order of steps in which nobody meanwhile holds anything that they hold neither before nor
 * after.
 *
 * <p>Giving first and taking then, nobody holds less than both ends; where the moment between the
 * two brings nobody anything that goes again, nobody holds more than either end, too. Where it
 * does, taking comes first: then nobody ever holds more, though somebody may lack something for a
 * moment that they have before and after. Cost: the effect of the giving steps, beside that of all.
 *
 * <p>On servers where a narrower grant hides a wider one, taking can give and giving can take.
 * There each step is looked at before it gets its place; cost: the effects of as many changes as
 * there are steps, so that is done for plans of {@value #LOOKED_AT} steps at most.
 */
public final class SafeOrder {
  private static final int LOOKED_AT = 400;

  private SafeOrder() {}

  /**
   * An order.
   *
   * @param steps the steps
   * @param onTheWay what somebody holds for a moment although they hold it neither before nor
   *     after, where no order could help that
   */
  public record Result(List<Step> steps, List<Change> onTheWay) {
    private Result(List<Step> steps) {
      this(steps, List.of());
    }
  }

  /** A gain, whoever and whatever it is about. */
  private record Gain(int user, Object privilege, int node, BitSet columns) {}

  /**
   * The steps in a safe order.
   *
   * @param effects what all of them together do
   */
  public static Result of(Access before, List<Step> steps, List<Change> effects, Clock clock) {
    List<Step> first = new ArrayList<>();
    List<Step> gives = new ArrayList<>();
    List<Step> takes = new ArrayList<>();
    List<Step> drops = new ArrayList<>();
    Columns columns = new Columns(steps);
    for (Step step : steps) {
      switch (step.about().turn()) {
        case MAKES -> first.add(step);
        case DROPS -> drops.add(step);
        case GIVES, TAKES, TAKES_OVER -> (columns.goesWithTaking(step) ? takes : gives).add(step);
      }
    }
    Set<Gain> lasting = gains(effects);
    if (before.rules().has(HouseFact.ONE_ROW_COUNTS) && steps.size() <= LOOKED_AT) {
      List<Step> safe = new ArrayList<>(first);
      List<Step> open = new ArrayList<>(gives);
      open.addAll(takes);
      List<Change> onTheWay = new ArrayList<>();
      while (!open.isEmpty()) {
        safe.add(open.remove(next(before, safe, open, lasting, clock, onTheWay)));
      }
      safe.addAll(drops);
      return new Result(safe, onTheWay);
    }
    if (takes.isEmpty() && drops.isEmpty() || gives.isEmpty()) {
      return new Result(steps);
    }
    List<Step> toThePeak = new ArrayList<>(first);
    toThePeak.addAll(gives);
    Set<Gain> peak = gains(PeopleEffects.of(before, Outcome.of(before, toThePeak), clock));
    if (lasting.containsAll(peak)) {
      return new Result(steps);
    }
    List<Step> safe = new ArrayList<>(first);
    safe.addAll(takes);
    // what was denied by something that is taken by now is open to what is given
    safe.addAll(TakesInOrder.givenSafely(before, gives, safe, drops, clock));
    safe.addAll(drops);
    return new Result(safe);
  }

  /** What is on columns has its place beside the whole: it goes with it, and comes after it. */
  private static final class Columns {
    private final Set<Object> given = new HashSet<>();
    private final Set<Object> taken = new HashSet<>();

    Columns(List<Step> steps) {
      for (Step step : steps) {
        if (step instanceof Grant grant && grant.columns().isEmpty()) {
          given.add(about(grant));
        } else if (step instanceof Revoke revoke && revoke.columns().isEmpty()) {
          taken.add(about(revoke));
        }
      }
    }

    boolean goesWithTaking(Step step) {
      if (step instanceof Revoke revoke && !revoke.columns().isEmpty()) {
        return !given.contains(about(revoke));
      }
      boolean onColumns =
          step instanceof Grant grant && !grant.columns().isEmpty()
              || step instanceof AddOption add && !add.columns().isEmpty();
      return isTaking(step) || onColumns && taken.contains(about(step));
    }
  }

  /** The first that nobody gains by what they do not keep; where there is none, the least bad. */
  private static int next(
      Access before,
      List<Step> done,
      List<Step> open,
      Set<Gain> lasting,
      Clock clock,
      List<Change> onTheWay) {
    int best = 0;
    List<Change> fewest = null;
    for (int i = 0; i < open.size(); i++) {
      if (waits(open.get(i), open.subList(0, i))) {
        continue;
      }
      List<Step> now = new ArrayList<>(done);
      now.add(open.get(i));
      List<Change> gains =
          PeopleEffects.gains(before, Outcome.of(before, now), clock).stream()
              .filter(change -> !lasting.contains(gain(change)))
              .toList();
      if (gains.isEmpty()) {
        return i;
      }
      if (fewest == null || gains.size() < fewest.size()) {
        fewest = gains;
        best = i;
      }
    }
    onTheWay.addAll(fewest);
    return best;
  }

  /** Whether one of the steps before it is about the same member, or the same grant. */
  private static boolean waits(Step step, List<Step> before) {
    Object about = about(step);
    return before.stream().anyMatch(other -> about(other).equals(about));
  }

  /** Whom, and of grants on what, a step is about; itself for others. */
  private static Object about(Step step) {
    About about = step.about();
    if (about.holder() == null) {
      return step;
    }
    return about.on() == null ? about.holder() : List.of(about.holder(), about.on());
  }

  private static boolean isTaking(Step step) {
    Turn turn = step.about().turn();
    return turn == Turn.TAKES || turn == Turn.TAKES_OVER;
  }

  private static Set<Gain> gains(List<Change> changes) {
    Set<Gain> found = new HashSet<>();
    for (Change change : changes) {
      if (change.isGain()) {
        found.add(gain(change));
      }
    }
    return found;
  }

  private static Gain gain(Change change) {
    return new Gain(change.user(), change.privilege(), change.node(), change.columns());
  }
}
