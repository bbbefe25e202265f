package fiador.changes.outcome;

import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.List;

/**
 * Where giving a role does nothing for those who hold it through another, it is given when the
 * other one is taken. For a moment they may lack it; the other way round they would never get it.
 */
public final class HeldOnce {
  private HeldOnce() {}

  /** The steps in an order in which each role that is given is there afterwards. */
  public static List<Step> inOrder(Access before, List<Step> steps) {
    boolean takes = steps.stream().anyMatch(TakeRole.class::isInstance);
    if (!takes || !before.rules().has(HouseFact.ROLES_HELD_ONCE)) {
      return steps;
    }
    HeldThrough meanwhile = meanwhile(before, steps);
    List<Step> ordered = new ArrayList<>();
    List<Step> late = new ArrayList<>();
    int last = 0;
    for (Step step : steps) {
      boolean waits =
          step instanceof GiveRole role
              && role.before() == null
              && meanwhile.others(role.member(), role.role());
      (waits ? late : ordered).add(step);
      last = step instanceof TakeRole ? ordered.size() : last;
    }
    ordered.addAll(last, late);
    return ordered;
  }

  private static HeldThrough meanwhile(Access before, List<Step> steps) {
    HeldThrough held = new HeldThrough();
    Principals people = before.principals();
    Memberships all = before.memberships();
    for (int edge = 0; edge < all.size(); edge++) {
      held.add(people.name(all.member(edge)), people.name(all.role(edge)));
    }
    for (Step step : steps) {
      if (step instanceof GiveRole role) {
        held.add(role.member(), role.role());
      }
    }
    return held;
  }
}
