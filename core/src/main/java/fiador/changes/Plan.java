package fiador.changes;

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
  /** Something wrong at a place of the charter, or with the whole where there is no place. */
  public record Problem(Wanted.Place place, String message) {
    @Override
    public String toString() {
      return place == null ? message : place + ": " + message;
    }
  }

  /** True when the server already is as wanted. */
  public boolean isEmpty() {
    return steps.isEmpty();
  }
}
