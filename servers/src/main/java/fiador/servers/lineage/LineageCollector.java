package fiador.servers.lineage;

import fiador.grants.AccessBuilder;
import fiador.grants.Lineage;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/** Puts what views and routines show into a survey. */
public final class LineageCollector {
  private final AccessBuilder builder;
  private final Relations relations;
  private final char quote;
  private final boolean backslashes;
  private final UnaryOperator<String> folded;

  /** Parameters as for {@link RoutineText#reads}. */
  public LineageCollector(
      AccessBuilder builder,
      Relations relations,
      char quote,
      boolean backslashes,
      UnaryOperator<String> folded) {
    this.builder = builder;
    this.relations = relations;
    this.quote = quote;
    this.backslashes = backslashes;
    this.folded = folded;
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
    return new QuotedNames(text, quote, backslashes, folded);
  }

  /** Adds what a routine may read. */
  public void routine(int routine, String body, Relations named) {
    Map<Integer, BitSet> reads = RoutineText.reads(body, quote, backslashes, folded, named);
    reads.forEach(
        (node, columns) ->
            builder.reads(routine, node, builder.columnSets().intern(columns.stream().toArray())));
  }
}
