package fiador.changes.outcome;

import fiador.changes.steps.Meanwhile;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.grants.Access;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Which steps of a change a server already shows: after a stop half-way nobody else can tell. */
public final class Done {
  private final Access access;
  private final Map<On, On> names = new HashMap<>();
  private final StepsDone cases;

  /** Looks at that survey. */
  public Done(Access access) {
    this.access = access;
    this.cases = new StepsDone(access, names);
  }

  /** The steps that are still to be carried out, in their order. */
  public List<Step> missing(List<Step> steps) {
    List<Step> missing = new ArrayList<>();
    otherNames(steps);
    boolean others =
        steps.stream().anyMatch(step -> !Meanwhile.isPart(step, steps) && !isDone(step));
    ForAMoment moments = new ForAMoment(steps, this::isDone);
    for (int at = 0; at < steps.size(); at++) {
      Step step = steps.get(at);
      Meanwhile pair = Meanwhile.of(step, steps);
      boolean isMissing =
          moments.has(at)
              ? moments.isMissing(at)
              : pair == null ? !isDone(step) : pair.isMissing(step, others, this::isDone);
      if (isMissing) {
        missing.add(step);
      }
    }
    return missing;
  }

  /** What takes back those steps that took effect, the last one first. */
  public List<Step> undo(List<Step> steps) {
    List<Step> back = new ArrayList<>();
    otherNames(steps);
    ForAMoment moments = new ForAMoment(steps, this::isDone);
    for (int at = 0; at < steps.size(); at++) {
      Step step = steps.get(at);
      Meanwhile pair = Meanwhile.of(step, steps);
      boolean tookEffect =
          moments.has(at)
              ? moments.isTakenBack(at)
              : isDone(step) || pair != null && isDone(pair.opens());
      if (!step.takesOver() && tookEffect) {
        back.add(step.inverse());
      }
    }
    Collections.reverse(back);
    return HeldOnce.inOrder(access, back);
  }

  /**
   * What lifts denials that were to be there for a moment among those steps, and still are.
   *
   * @param meanwhile steps that are carried out in any case; what they lift is left out
   */
  public List<Step> lifts(List<Step> steps, List<Step> meanwhile) {
    otherNames(steps);
    return new ForAMoment(steps, this::isDone).lifts(meanwhile);
  }

  /** Steps know a table that moves by the name it has while it stands aside. */
  private void otherNames(List<Step> steps) {
    for (Step step : steps) {
      if (step instanceof MoveTable move) {
        names.put(move.aside() ? move.to() : move.from(), move.aside() ? move.from() : move.to());
      }
    }
  }

  /** Whether a step has taken effect. */
  public boolean isDone(Step step) {
    return step.match(cases);
  }
}
