package fiador.changes.ordering;

import fiador.changes.outcome.Opened;
import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.Deny;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.changes.steps.Turn;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/**
 * Where denials are, what a step takes may be what kept somebody from something that another step
 * is about to take, and there may be no order in which nothing opens. What would open is denied
 * until all is done. Losing a role, or a denial, can open something so, and getting a role where
 * another is still to come that denies. Cost: such steps, times what each does to people; nothing
 * where there are no denials.
 */
public final class Shields {
  /**
   * With more steps of that sort it would take too long: only those that take are looked at then,
   * and where those are too many, all are carried out as they stand.
   */
  private static final int LOOKED_AT = 60;

  /** A step that opens more than that is carried out as it stands. */
  private static final int MOST = 60;

  private Shields() {}

  /**
   * The steps, and among them what is denied for a moment.
   *
   * @param after as it is after all of them
   */
  public static List<Step> among(Access before, Access after, List<Step> steps, Clock clock) {
    boolean any = before.denials().size() > 0 || steps.stream().anyMatch(Deny.class::isInstance);
    boolean looks = before.rules().has(HouseFact.DENIALS) && any;
    Predicate<Step> mayOpen = few(steps, Shields::mayOpen) ? Shields::mayOpen : Shields::loses;
    boolean some = steps.stream().anyMatch(mayOpen);
    if (!looks || steps.size() < 2 || !some || !few(steps, mayOpen)) {
      return steps;
    }
    Opened opened = new Opened(before, after, clock);
    List<Step> shielded = new ArrayList<>();
    List<Step> lifts = new ArrayList<>();
    List<Step> since = new ArrayList<>();
    Access at = before;
    for (Step step : steps) {
      if (step.about().turn() == Turn.DROPS) {
        // whoever was denied something may be the one who goes
        shielded.addAll(lifts);
        since.addAll(lifts);
        lifts.clear();
      }
      if (mayOpen.test(step)) {
        at = since.isEmpty() ? at : Outcome.of(at, since).after();
        since.clear();
        List<Change> gains = opened.by(at, step);
        for (Change gain : gains.size() > MOST ? List.<Change>of() : gains) {
          Deny shield = shield(at, gain);
          shielded.add(shield);
          since.add(shield);
          lifts.add(0, shield.inverse());
        }
      }
      shielded.add(step);
      since.add(step);
    }
    shielded.addAll(lifts);
    return shielded;
  }

  private static boolean few(List<Step> steps, Predicate<Step> which) {
    return steps.stream().filter(which).count() <= LOOKED_AT;
  }

  /** Whether a step takes what may have kept somebody from something. */
  private static boolean loses(Step step) {
    boolean lifts = step instanceof Deny deny && deny.lifted();
    boolean takes = step.about().turn() == Turn.TAKES || step.about().turn() == Turn.TAKES_OVER;
    return lifts || takes && step.about().role() != null || step.about().turn() == Turn.DROPS;
  }

  /** The same, or whether it gives what something else still has to keep them from. */
  private static boolean mayOpen(Step step) {
    return loses(step) || step.about().role() != null;
  }

  private static Deny shield(Access at, Change gain) {
    List<String> columns =
        gain.columns() == null
            ? List.of()
            : gain.columns().stream()
                .mapToObj(column -> at.tree().column(gain.node(), column))
                .toList();
    return new Deny(
        gain.privilege().bit(),
        Places.on(at.tree(), gain.node()),
        columns,
        at.principals().name(gain.user()),
        false,
        true);
  }
}
