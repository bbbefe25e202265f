package fiador.changes.planning;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.About;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.changes.steps.Turn;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * What is taken, in an order in which nobody loses the way to what they have to take themselves:
 * things first, then what they are in, then roles, those that bring denials last; what rests on
 * something before that; and givers who lack the way in anyway are let in for the one statement.
 */
public final class TakesInOrder {
  private TakesInOrder() {}

  /**
   * The takes in order. Cost: the takes, and where givers have to take something themselves the
   * outcome of what comes before.
   *
   * @param before the steps that come before
   */
  static List<Step> of(Access access, List<Step> before, Collection<Step> takes, Clock clock) {
    List<Step> ordered = new ArrayList<>(takes);
    ordered.sort(Comparator.comparingInt(TakesInOrder::depth));
    Denying denying = new Denying(access, before);
    ordered = denying.last(ordered);
    if (ordered.stream().anyMatch(denying::isAbout)) {
      List<Step> all = new ArrayList<>(before);
      all.addAll(ordered);
      ordered = denying.safely(ordered, before, Outcome.of(access, all).after(), clock);
    }
    ordered = Resting.first(ordered);
    return ordered.stream().anyMatch(LettingIn::isByGiver)
        ? new LettingIn(Outcome.of(access, before).after(), clock).through(ordered)
        : ordered;
  }

  /**
   * All of some steps: those that give, those that take, in order, and what is given again after it
   * was taken.
   */
  public static List<Step> among(Access access, List<Step> steps, Clock clock) {
    List<Step> before = new ArrayList<>();
    List<Step> takes = new ArrayList<>();
    List<Step> again = new ArrayList<>();
    Set<Object> taken = new HashSet<>();
    for (Step step : steps) {
      if (isTake(step)) {
        takes.add(step);
        taken.add(about(step));
      } else {
        (taken.contains(about(step)) ? again : before).add(step);
      }
    }
    List<Step> all = new ArrayList<>(givenSafely(access, before, List.of(), takes, clock));
    all.addAll(of(access, before, takes, clock));
    all.addAll(again);
    return List.copyOf(all);
  }

  /**
   * What gives, so that what brings denials comes first, and opens nothing meanwhile.
   *
   * @param earlier the steps before
   * @param takes what is taken afterwards
   */
  public static List<Step> givenSafely(
      Access access,
      Collection<Step> gives,
      List<Step> earlier,
      Collection<Step> takes,
      Clock clock) {
    Denying denying = new Denying(access, gives);
    List<Step> ordered = denying.first(gives);
    if (ordered.stream().noneMatch(denying::isAbout)) {
      return ordered;
    }
    List<Step> all = new ArrayList<>(earlier);
    all.addAll(ordered);
    all.addAll(takes);
    return denying.safely(ordered, earlier, Outcome.of(access, all).after(), clock);
  }

  /** Who holds what a step is about; itself for others. */
  private static Object about(Step step) {
    About about = step.about();
    return about.holder() == null || about.held() == null
        ? step
        : List.of(about.holder(), about.held());
  }

  private static boolean isTake(Step step) {
    Turn turn = step.about().turn();
    boolean takes = turn == Turn.TAKES || turn == Turn.TAKES_OVER;
    return takes && step.about().holder() != null;
  }

  private static int depth(Step step) {
    On on = step.about().on();
    return on == null ? 2 : on.kind().isObject() ? 0 : 1;
  }
}
