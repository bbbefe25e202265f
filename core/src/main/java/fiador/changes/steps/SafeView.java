package fiador.changes.steps;

import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.policies.UnderName;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A view that shows a table as its policies say, while the table itself stays closed: beside it, or
 * under its name.
 *
 * @param view the view
 * @param table what it shows
 * @param columns the table's columns, which are the view's too
 * @param policies the policies, as {@link SightText} writes them
 * @param underName whether it stands under the table's name: then it is used like the table, with
 *     the same types of columns, and written through where the server can
 * @param fills how the table fills its columns, where the server has to be told; else null
 */
public record SafeView(
    On view,
    On table,
    List<SafeColumn> columns,
    String policies,
    boolean underName,
    Sights.@Nullable Fills fills) {
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
            each.getValue().policies(),
            UnderName.is(access, each.getKey(), each.getValue()),
            access.sights().fills().get(table));
      }
    }
    return null;
  }

  /** The same that shows nobody any row. */
  public SafeView closed() {
    return new SafeView(view, table, columns, CLOSED, underName, fills);
  }

  /** The same of the table by another name. */
  public SafeView of(On other) {
    return new SafeView(view, other, columns, policies, underName, fills);
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
