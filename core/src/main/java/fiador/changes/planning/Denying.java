package fiador.changes.planning;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Deny;
import fiador.changes.steps.Step;
import fiador.changes.steps.Turn;
import fiador.grants.Access;
import fiador.grants.Reach;
import java.time.Clock;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Denials, and roles that bring some along. Giving one closes something, and taking one opens
 * something; so they are given before all else is given and taken after all else is taken, and
 * nobody meanwhile gets at what is denied them both before and after.
 */
final class Denying {
  private final Access access;
  private final Reach reach;
  private final Set<String> roles = new HashSet<>();

  /**
   * Those of a server, and those that memberships still to be given make such. Cost: the denials,
   * and the memberships below the roles that have any.
   */
  Denying(Access access, Collection<Step> given) {
    this.access = access;
    this.reach = new Reach(access);
    Deque<String> left = new ArrayDeque<>();
    for (int row = 0; row < access.denials().size(); row++) {
      left.add(access.principals().name(access.denials().grantee(row)));
    }
    while (!left.isEmpty()) {
      String role = left.pop();
      if (!roles.add(role)) {
        continue;
      }
      int id = access.principals().named(role);
      for (int edge : id < 0 ? new int[0] : access.memberships().membersOf().run(id)) {
        left.add(access.principals().name(access.memberships().member(edge)));
      }
      for (Step step : given) {
        if (role.equals(step.about().role()) && step.about().holder() != null) {
          left.add(step.about().holder());
        }
      }
    }
  }

  /** Whether a step gives or takes such a role. */
  boolean isAbout(Step step) {
    return step.about().role() != null && roles.contains(step.about().role());
  }

  /**
   * Those that give such roles first, and all others as they stand: to who is held by many before
   * who is held by few, and what brings few grants before what brings many.
   */
  List<Step> first(Collection<Step> gives) {
    return sorted(
        gives,
        Comparator.<Step>comparingInt(step -> step instanceof Deny ? 0 : isGiven(step) ? 1 : 2)
            .thenComparingInt(step -> isGiven(step) ? -below(step) : 0)
            .thenComparingInt(step -> isGiven(step) ? brings(step) : 0));
  }

  private boolean isGiven(Step step) {
    return isAbout(step) && step.about().turn() == Turn.GIVES;
  }

  /**
   * Those that take such roles last, and all others as they stand, the other way round: else what
   * was given further down would be open meanwhile.
   */
  List<Step> last(Collection<Step> takes) {
    return sorted(
        takes,
        Comparator.<Step>comparingInt(step -> step instanceof Deny ? 2 : isAbout(step) ? 1 : 0)
            .thenComparingInt(step -> isAbout(step) ? below(step) : 0)
            .thenComparingInt(step -> isAbout(step) ? -brings(step) : 0));
  }

  private List<Step> sorted(Collection<Step> steps, Comparator<Step> by) {
    List<Step> ordered = new ArrayList<>(steps);
    if (!roles.isEmpty() || steps.stream().anyMatch(Deny.class::isInstance)) {
      ordered.sort(by);
    }
    return ordered;
  }

  /**
   * The same, with those that give or take such roles in an order that opens nothing meanwhile.
   *
   * @param steps in the order of {@link #first} or {@link #last}
   * @param earlier the steps that come before them
   * @param all the state after all steps
   */
  List<Step> safely(List<Step> steps, List<Step> earlier, Access all, Clock clock) {
    List<Step> movable = steps.stream().filter(this::isAbout).toList();
    if (movable.size() < 2) {
      return steps;
    }
    int from = steps.indexOf(movable.get(0));
    List<Step> done = new ArrayList<>(earlier);
    done.addAll(steps.subList(0, from));
    Access now = Outcome.of(access, done).after();
    List<Step> ordered = new ArrayList<>(steps.subList(0, from));
    ordered.addAll(new SafeOrder(access, all, clock).of(now, movable));
    steps.subList(from, steps.size()).stream().filter(step -> !isAbout(step)).forEach(ordered::add);
    return ordered;
  }

  /** How much comes with the role that is given or taken. */
  private int brings(Step step) {
    int role = access.principals().named(String.valueOf(step.about().role()));
    int grants = 0;
    for (int each : role < 0 ? List.<Integer>of() : reach.up(role)) {
      grants += access.grants().byGrantee().run(each).length;
    }
    return grants;
  }

  /** How many hold the one who is given or loses a role, that one included. */
  private int below(Step step) {
    int member = access.principals().named(String.valueOf(step.about().holder()));
    return member < 0 ? 1 : reach.below(member).size();
  }
}
