package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import fiador.estate.Adjacency;
import java.util.Map;

/**
 * What views read: rows of view, thing under it, and the columns taken. A routine that a view calls
 * stands here too; and what routines read, as far as their text tells: it names the table, which is
 * no proof that a call comes to reading it.
 *
 * @param byView the rows by view or routine
 * @param under what each row's view reads
 * @param columns the column set read, or {@link ColumnSets#WHOLE} where the view needs just any
 *     column of it
 * @param lineage which of them each column of a view shows
 */
public record Reads(Adjacency byView, Ints under, Ints columns, Lineage lineage) {
  /** What {@link #put} laid down. */
  static Reads take(ColumnSource source) {
    return new Reads(
        Adjacency.take("reads.by_view", source),
        source.ints("reads.under"),
        source.ints("reads.columns"),
        Lineage.take(source));
  }

  /** Lays it down. */
  void put(ColumnSink sink) {
    byView.put("reads.by_view", sink);
    sink.ints("reads.under", under);
    sink.ints("reads.columns", columns);
    lineage.put(sink);
  }

  /** The same where there are more nodes, which read nothing. */
  Reads forMoreNodes() {
    return new Reads(byView.patched(Map.of()), under, columns, lineage.forMoreNodes());
  }

  /** Whether anything is known to lie under the node. */
  public boolean hasAny(int view) {
    return byView.from(view) < byView.to(view);
  }
}
