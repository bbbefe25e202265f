package fiador.grants;

import fiador.estate.Adjacency;
import java.util.Map;

/**
 * What views read: rows of view, thing under it, and the columns taken. A routine that a view calls
 * stands here too.
 *
 * @param byView the rows by view
 * @param under what each row's view reads
 * @param columns the column set read, or {@link ColumnSets#WHOLE} where the view needs just any
 *     column of it
 */
public record Reads(Adjacency byView, int[] under, int[] columns) {
  /** The same where there are more nodes, which read nothing. */
  Reads forMoreNodes() {
    return new Reads(byView.patched(Map.of()), under, columns);
  }

  /** Whether anything is known to lie under the node. */
  public boolean hasAny(int view) {
    return byView.from(view) < byView.to(view);
  }
}
