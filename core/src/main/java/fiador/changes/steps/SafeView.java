package fiador.changes.steps;

import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A view that shows a table as its policies say, while the table itself stays closed.
 *
 * @param view the view
 * @param table what it shows
 * @param columns the table's columns, which are the view's too
 * @param policies the policies, as {@link SightText} writes them
 */
public record SafeView(On view, On table, List<SafeColumn> columns, String policies) {
  private static final String CLOSED = SightText.of(TableSight.CLOSED);

  /** The view that a server has for a table; null where there is none. */
  public static @Nullable SafeView kept(Access access, int table) {
    Tree tree = access.tree();
    for (Map.Entry<Integer, Sights.Kept> each : access.sights().kept().entrySet()) {
      if (each.getValue().table() == table && each.getKey() != table) {
        return new SafeView(
            Places.on(tree, each.getKey()),
            Places.on(tree, table),
            SafeColumn.all(tree, table),
            each.getValue().policies());
      }
    }
    return null;
  }

  /** The same that shows nobody any row. */
  public SafeView closed() {
    return new SafeView(view, table, columns, CLOSED);
  }

  /** Whether it shows nobody any row. */
  public boolean showsNothing() {
    return policies.equals(CLOSED);
  }

  /** The policies. */
  public TableSight sight() {
    return SightText.read(policies, columns);
  }
}
