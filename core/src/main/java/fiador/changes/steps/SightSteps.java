package fiador.changes.steps;

import fiador.estate.ColumnType;
import fiador.estate.Tree;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;

/** The steps about rows and columns. */
public final class SightSteps {
  /** The rule that opens a table whose policies only narrow, where a server needs one to. */
  public static final String OPEN_RULE = "fiador open";

  private SightSteps() {}

  /** A lookup table that is there. */
  public static LookupTable lookupTable(Tree tree, Sights.LookupTable known) {
    return new LookupTable(
        known.name(),
        Places.on(tree, known.table()),
        column(tree, known.table(), known.key()),
        known.keys(),
        column(tree, known.table(), known.value()));
  }

  private static SafeColumn column(Tree tree, int table, String name) {
    int ordinal = tree.columnNamed(table, name);
    ColumnType type = ordinal < 0 ? ColumnType.OTHER : tree.columnType(table, ordinal);
    return new SafeColumn(name, type);
  }
}
