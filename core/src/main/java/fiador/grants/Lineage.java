package fiador.grants;

import fiador.estate.Adjacency;
import java.util.BitSet;
import java.util.Map;

/**
 * What the columns of views show: rows of a view's column and a column under the view that its
 * value comes from. A view without rows is one whose text could not be followed; a column that
 * shows nothing of any table has a row of its own that says so.
 *
 * @param byView the rows by view
 * @param column the ordinal of each row's column in the view
 * @param under what lies under the view, or {@link #NOTHING}
 * @param from the ordinal of the column there
 * @param asIs the rows whose column shows the other's values as they are; else they are worked out
 *     from them, and may or may not give them away
 */
public record Lineage(Adjacency byView, int[] column, int[] under, int[] from, BitSet asIs) {
  /** Stands for what lies under a column that shows nothing of any table. */
  public static final int NOTHING = -1;

  /** Whether it is known what each column of the view shows. */
  public boolean isKnown(int view) {
    return byView.from(view) < byView.to(view);
  }

  Lineage forMoreNodes() {
    return new Lineage(byView.patched(Map.of()), column, under, from, asIs);
  }
}
