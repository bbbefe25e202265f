package fiador.changes;

import fiador.changes.PeopleEffects.Change;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * The difference between what a server is and what a charter wants: what would be done, and what
 * that does to people.
 *
 * @param before the server as it is, with the views that the plan makes
 * @param plan what would be done
 * @param outcome the server after that; null while the plan has problems
 * @param effects what people gain and lose by it
 */
public record Gap(Access before, Plan plan, Outcome.Result outcome, List<Change> effects) {

  /** The gap; parameters as for {@link Planner}. */
  public static Gap between(
      Access surveyed, Wanted wanted, boolean mayDrop, Set<String> untouchable, Clock clock) {
    Planner planner = new Planner(surveyed, mayDrop, untouchable);
    Plan plan = planner.plan(wanted);
    Access before = planner.access();
    if (!plan.problems().isEmpty()) {
      return new Gap(before, plan, null, List.of());
    }
    Outcome.Result outcome = Outcome.of(before, plan.steps());
    List<Plan.Problem> denied =
        new Refusals(outcome.after(), clock).problems(wanted.refused(), wanted.sight().labels());
    Seals seals =
        new Seals(
            outcome.after(), clock, new Governed(outcome.after(), wanted.governs(), untouchable));
    wanted.sight().seals().forEach(seals::check);
    List<Plan.Problem> problems = new ArrayList<>(denied);
    problems.addAll(seals.problems());
    List<String> notes = new ArrayList<>(plan.notes());
    notes.addAll(seals.notes());
    if (!problems.isEmpty()) {
      return new Gap(before, new Plan(plan.steps(), problems, notes), null, List.of());
    }
    List<Change> effects = PeopleEffects.of(before, outcome, clock);
    // one transaction has no moment in between, and there the order may matter to the server
    boolean inOneGo = before.rules().changesInOneGo();
    List<Step> steps = inOneGo ? plan.steps() : SafeOrder.of(before, plan.steps(), effects, clock);
    return new Gap(before, new Plan(steps, List.of(), List.copyOf(notes)), outcome, effects);
  }

  /** Steps that were not worked out from a charter, and what they do to people. */
  public static Gap of(Access before, List<Step> steps, Clock clock) {
    Outcome.Result outcome = Outcome.of(before, steps);
    List<Change> effects = PeopleEffects.of(before, outcome, clock);
    return new Gap(before, new Plan(List.copyOf(steps), List.of(), List.of()), outcome, effects);
  }
}
