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
   * and where those are too many, all are carried out as they stand. Either is said.
   */
  private static final int LOOKED_AT = 60;

  /** A step that opens more than that is carried out as it stands, and that is said. */
  private static final int MOST = 60;

  private static final String FOR_A_MOMENT =
      "for a moment somebody may hold something that they hold neither before nor after";

  private Shields() {}

  /**
   * Steps that are shielded as far as they were looked at.
   *
   * @param steps the steps, and among them what is denied for a moment
   * @param notes what was not looked at, in sentences
   */
  public record Result(List<Step> steps, List<String> notes) {}

  /**
   * The steps, shielded.
   *
   * @param after as it is after all of them
   */
  public static Result among(Access before, Access after, List<Step> steps, Clock clock) {
    boolean any = before.denials().size() > 0 || steps.stream().anyMatch(Deny.class::isInstance);
    boolean looks = before.rules().has(HouseFact.DENIALS) && any;
    if (!looks || steps.size() < 2) {
      return new Result(steps, List.of());
    }
    List<String> notes = new ArrayList<>();
    boolean all = few(steps, Shields::mayOpen);
    boolean some = few(steps, Shields::loses);
    if (!all) {
      notes.add(tooMany(steps, some));
    }
    Predicate<Step> mayOpen = all ? Shields::mayOpen : Shields::loses;
    if (!some || steps.stream().noneMatch(mayOpen)) {
      return new Result(steps, notes);
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
        if (gains.size() > MOST) {
          notes.add(opensTooMuch(at, gains));
        }
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
    return new Result(shielded, notes);
  }

  private static String tooMany(List<Step> steps, boolean takingIsLookedAt) {
    long which =
        steps.stream().filter(step -> mayOpen(step) && !(takingIsLookedAt && loses(step))).count();
    return which
        + " statements "
        + (takingIsLookedAt ? "give roles" : "give or take roles or lift denials")
        + ", too many to look at what each opens: "
        + FOR_A_MOMENT
        + "; settle fewer at a time to keep them from it";
  }

  private static String opensTooMuch(Access at, List<Change> gains) {
    Change first = gains.get(0);
    return "one statement opens "
        + gains.size()
        + " rights until others are done, too many to deny each meanwhile: "
        + FOR_A_MOMENT
        + ", "
        + at.principals().name(first.user())
        + " "
        + first.privilege().text()
        + " on "
        + at.tree().path(first.node())
        + " among them";
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
