package fiador.sqltext.lineage;

import fiador.grants.AccessBuilder;
import fiador.grants.Lineage;
import fiador.sqltext.SqlReader;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Puts what views and routines show into a survey. */
public final class LineageCollector {
  private final AccessBuilder builder;
  private final Relations relations;
  private final SqlReader reader;

  /**
   * A collector for one database.
   *
   * @param relations what names mean where no schema stands
   * @param reader for the server's texts
   */
  public LineageCollector(AccessBuilder builder, Relations relations, SqlReader reader) {
    this.builder = builder;
    this.relations = relations;
    this.reader = reader;
  }

  /** Adds what each column of a view shows; nothing where its query cannot be followed. */
  public void view(int view, String query) {
    List<Set<Shown>> columns;
    try {
      int wide = relations.columns(view).size();
      columns = ViewColumns.of(quoted(query), wide, relations);
    } catch (NotUnderstood beyond) {
      return;
    }
    for (int column = 0; column < columns.size(); column++) {
      if (columns.get(column).isEmpty()) {
        builder.shows(view, column, Lineage.NOTHING, 0, false);
      }
      for (Shown shown : columns.get(column)) {
        builder.shows(view, column, shown.under(), shown.column(), shown.asIs());
      }
    }
  }

  /** A text of that server, ready for the parser. */
  public QuotedNames quoted(String text) {
    return new QuotedNames(text, reader);
  }

  /**
   * Adds what a routine may read.
   *
   * @param inSql whether its body is SQL, with or without a procedural language around it
   */
  public void routine(int routine, String body, boolean inSql, Relations named) {
    Map<Integer, BitSet> reads =
        inSql ? RoutineText.reads(body, reader, named) : RoutineText.namedBy(body, reader, named);
    reads.forEach(
        (node, columns) ->
            builder.reads(routine, node, builder.columnSets().intern(columns.stream().toArray())));
  }
}
