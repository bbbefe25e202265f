package fiador.changes.planning;

import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import java.util.List;

/**
 * What has to be done.
 *
 * @param steps in an order that can be carried out
 * @param problems why it cannot be done as wanted, each with its place; nothing is done while there
 *     are any
 * @param notes what is left out because the server has no such thing
 */
public record Plan(List<Step> steps, List<Problem> problems, List<String> notes) {
  /** True when the server already is as wanted. */
  public boolean isEmpty() {
    return steps.isEmpty();
  }
}
