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

/**
 * Where denials are, what a step takes may be what kept somebody from something that another step
 * is about to take, and there may be no order in which nothing opens. What would open is denied
 * until all is done. Cost: the steps, times what each does to people; nothing where there are no
 * denials.
 */
public final class Shields {
  /** With more steps it would take too long; they are carried out as they stand. */
  private static final int LOOKED_AT = 200;

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
    if (!looks || steps.size() < 2 || steps.size() > LOOKED_AT) {
      return steps;
    }
    Opened opened = new Opened(before, after, clock);
    List<Step> shielded = new ArrayList<>();
    List<Step> lifts = new ArrayList<>();
    Access at = before;
    for (Step step : steps) {
      if (step.about().turn() == Turn.DROPS) {
        // whoever was denied something may be the one who goes
        shielded.addAll(lifts);
        at = Outcome.of(at, lifts).after();
        lifts.clear();
      }
      List<Step> some = new ArrayList<>();
      List<Change> gains = opened.by(at, step);
      for (Change gain : gains.size() > MOST ? List.<Change>of() : gains) {
        Deny shield = shield(at, gain);
        some.add(shield);
        lifts.add(0, shield.inverse());
      }
      some.add(step);
      shielded.addAll(some);
      at = Outcome.of(at, some).after();
    }
    shielded.addAll(lifts);
    return shielded;
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
