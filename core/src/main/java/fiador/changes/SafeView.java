package fiador.changes;

import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import java.util.List;

/**
 * A view that shows a table as its policies say, while the table itself stays closed.
 *
 * @param view the view
 * @param table what it shows
 * @param columns the table's columns, which are the view's too
 * @param policies the policies, as {@link SightText} writes them
 */
public record SafeView(Step.On view, Step.On table, List<SafeColumn> columns, String policies) {
  /** The policies. */
  public TableSight sight() {
    return SightText.read(policies, columns);
  }
}
