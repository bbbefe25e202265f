package fiador.changes;

import fiador.changes.ordering.SafeOrder;
import fiador.changes.ordering.Shields;
import fiador.changes.ordering.SightOrder;
import fiador.changes.ordering.Transactions;
import fiador.changes.outcome.HeldOnce;
import fiador.changes.outcome.KeptNames;
import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.outcome.SightEffects;
import fiador.changes.planning.BoundWriters;
import fiador.changes.planning.Ending;
import fiador.changes.planning.Plan;
import fiador.changes.planning.Planner;
import fiador.changes.planning.StoppedWriters;
import fiador.changes.planning.TakesInOrder;
import fiador.changes.steps.ColumnsFirst;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * The difference between what a server is and what a charter wants: what would be done, and what
 * that does to people.
 *
 * @param before the server as it is, with the new names and the views that the plan makes
 * @param plan what would be done
 * @param outcome the server after that; null while the plan has problems
 * @param effects what people gain and lose by it
 * @param sights what they see otherwise by it
 */
public record Gap(
    Access before,
    Plan plan,
    Outcome.Result outcome,
    List<Change> effects,
    List<SightEffects.Change> sights) {

  /** The gap; parameters as for {@link Planner}. */
  public static Gap between(
      Access surveyed, Wanted wanted, boolean mayDrop, Set<String> untouchable, Clock clock) {
    Planner planner = new Planner(surveyed, mayDrop, untouchable, clock);
    Plan plan = planner.plan(wanted);
    Access before = planner.access();
    if (!plan.problems().isEmpty()) {
      return new Gap(before, plan, null, List.of(), List.of());
    }
    Outcome.Result outcome = Outcome.of(before, plan.steps());
    List<String> notes = new ArrayList<>(plan.notes());
    List<Problem> problems = broken(outcome.after(), wanted, untouchable, clock, notes);
    if (!problems.isEmpty()) {
      return new Gap(before, new Plan(plan.steps(), problems, notes), null, List.of(), List.of());
    }
    if (plan.steps().isEmpty() && planner.renames().isEmpty()) {
      Plan nothing = new Plan(List.of(), List.of(), List.copyOf(notes));
      return new Gap(before, nothing, outcome, List.of(), List.of());
    }
    List<Change> effects = PeopleEffects.of(before, outcome, clock);
    StoppedWriters.tell(outcome.after(), effects, clock, notes);
    BoundWriters.tell(before, outcome.after(), clock, notes);
    List<Step> steps = ordered(before, plan.steps(), outcome, effects, clock, notes);
    // those compared already have their new names
    List<Step> all = new ArrayList<>(planner.renames());
    all.addAll(steps);
    Plan whole = new Plan(List.copyOf(all), List.of(), List.copyOf(notes));
    return of(before, whole, outcome, effects, clock);
  }

  /**
   * What keeps the gap from being closed, without working out what closing it does to people;
   * parameters as above. Cost: the plan.
   */
  public static List<Problem> problems(
      Access surveyed, Wanted wanted, boolean mayDrop, Set<String> untouchable, Clock clock) {
    Planner planner = new Planner(surveyed, mayDrop, untouchable, clock);
    Plan plan = planner.plan(wanted);
    if (!plan.problems().isEmpty()) {
      return plan.problems();
    }
    Access after = Outcome.of(planner.access(), plan.steps()).after();
    return broken(after, wanted, untouchable, clock, new ArrayList<>());
  }

  /** What a charter forbids, and would be so. */
  private static List<Problem> broken(
      Access after, Wanted wanted, Set<String> untouchable, Clock clock, List<String> notes) {
    List<Problem> problems =
        new ArrayList<>(
            new Refusals(after, clock)
                .problems(wanted.refusedAt(clock.instant()), wanted.sight().labels()));
    Seals seals = new Seals(after, clock, new Governed(after, wanted, untouchable));
    wanted.sight().seals().forEach(seals::check);
    problems.addAll(seals.problems());
    notes.addAll(seals.notes());
    return problems;
  }

  /** The steps in an order in which nobody holds or sees more on the way, and where none is. */
  private static List<Step> ordered(
      Access before,
      List<Step> steps,
      Outcome.Result outcome,
      List<Change> effects,
      Clock clock,
      List<String> notes) {
    // a transaction has no moment in between, and there the order may matter to the server
    boolean inOneGo = before.rules().has(HouseFact.CHANGES_IN_ONE_GO);
    if (inOneGo) {
      return HeldOnce.inOrder(before, Transactions.ordered(before, steps, effects, clock));
    }
    SafeOrder.Result safe = SafeOrder.of(before, steps, effects, clock);
    if (!safe.onTheWay().isEmpty()) {
      notes.add(onTheWay(outcome.after(), safe.onTheWay()));
    }
    SightOrder.Result order = SightOrder.of(before, safe.steps(), clock);
    for (int table : order.closed()) {
      notes.add(
          before.tree().path(table)
              + " shows nobody any row while this is carried out, because half-way somebody"
              + " would see rows or values that they see neither before nor after");
    }
    List<Step> held = HeldOnce.inOrder(before, order.steps());
    Shields.Result shielded = Shields.among(before, outcome.after(), held, clock);
    notes.addAll(shielded.notes());
    return shielded.steps();
  }

  /**
   * What takes that was wanted for a time that is over, and nothing else; parameters as for {@link
   * Planner}.
   */
  public static Gap ended(Access surveyed, Wanted wanted, Set<String> untouchable, Clock clock) {
    Plan ended = Ending.plan(surveyed, wanted, untouchable, clock);
    if (!ended.problems().isEmpty()) {
      return new Gap(surveyed, ended, null, List.of(), List.of());
    }
    Gap gap = of(surveyed, ended.steps(), clock);
    List<String> notes = new ArrayList<>(ended.notes());
    List<Step> steps =
        ordered(surveyed, gap.plan().steps(), gap.outcome(), gap.effects(), clock, notes);
    Plan plan = new Plan(steps, List.of(), List.copyOf(notes));
    return new Gap(surveyed, plan, gap.outcome(), gap.effects(), gap.sights());
  }

  private static String onTheWay(Access after, List<Change> held) {
    Change first = held.get(0);
    long users = held.stream().map(Change::user).distinct().count();
    return "no order of the statements keeps everybody within what they hold before or after: for a"
        + " moment "
        + after.principals().name(first.user())
        + " may "
        + first.privilege().text()
        + " "
        + after.tree().path(first.node())
        + (users > 1 ? ", and " + (users - 1) + " others something like it" : "");
  }

  /** Steps that were not worked out from a charter, and what they do to people. */
  public static Gap of(Access before, List<Step> given, Clock clock) {
    List<Step> columnsFirst = ColumnsFirst.of(TakesInOrder.among(before, given, clock));
    List<Step> inOrder = HeldOnce.inOrder(before, columnsFirst);
    Outcome.Result outcome = Outcome.of(before, inOrder);
    boolean inOneGo = before.rules().has(HouseFact.CHANGES_IN_ONE_GO);
    Shields.Result shielded =
        inOneGo
            ? new Shields.Result(inOrder, List.of())
            : Shields.among(before, outcome.after(), inOrder, clock);
    List<Change> effects = PeopleEffects.of(before, outcome, clock);
    Plan plan = new Plan(shielded.steps(), List.of(), shielded.notes());
    return of(before, plan, outcome, effects, clock);
  }

  private static Gap of(
      Access before, Plan plan, Outcome.Result outcome, List<Change> effects, Clock clock) {
    List<SightEffects.Change> sights = SightEffects.of(before, outcome, effects, clock);
    List<Change> felt = KeptNames.without(effects, before, outcome.after(), clock);
    return new Gap(before, plan, outcome, felt, sights);
  }
}
