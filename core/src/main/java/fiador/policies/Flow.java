package fiador.policies;

import fiador.estate.Tree;
import java.util.BitSet;

/**
 * What one node shows of one table: for each of its columns, the table's columns whose values stand
 * there as they are, and those that its values are worked out from. A routine has one column: all
 * it may tell.
 */
final class Flow {
  private final BitSet[] asIs;
  private final BitSet[] workedOut;

  private Flow(int columns) {
    asIs = new BitSet[columns];
    workedOut = new BitSet[columns];
    for (int column = 0; column < columns; column++) {
      asIs[column] = new BitSet();
      workedOut[column] = new BitSet();
    }
  }

  /** A table, which shows itself. */
  static Flow ofTable(Tree tree, int table) {
    Flow flow = new Flow(tree.columns(table));
    for (int column = 0; column < flow.asIs.length; column++) {
      flow.asIs[column].set(column);
    }
    return flow;
  }

  /** Something that is not known to show anything so far. */
  static Flow empty(int columns) {
    return new Flow(Math.max(1, columns));
  }

  /** Puts into a column what another node's column shows; tells whether that was news. */
  boolean add(int column, Flow other, int from, boolean unchanged) {
    int before = asIs[column].cardinality() + workedOut[column].cardinality();
    if (unchanged) {
      asIs[column].or(other.asIs[from]);
    } else {
      workedOut[column].or(other.asIs[from]);
    }
    workedOut[column].or(other.workedOut[from]);
    return asIs[column].cardinality() + workedOut[column].cardinality() > before;
  }

  /** Puts into every column what another node's column shows, as of a text nobody understands. */
  boolean addToAll(Flow other, int from) {
    boolean news = false;
    for (int column = 0; column < asIs.length; column++) {
      news |= add(column, other, from, true);
    }
    return news;
  }

  int columns() {
    return asIs.length;
  }

  /** The table's columns whose values some of the columns show as they are. */
  BitSet clear(BitSet columns) {
    return union(asIs, columns);
  }

  /** The table's columns that values in some of the columns are worked out from. */
  BitSet derived(BitSet columns) {
    return union(workedOut, columns);
  }

  private static BitSet union(BitSet[] sets, BitSet columns) {
    BitSet all = new BitSet();
    for (int column = 0; column < sets.length; column++) {
      if (columns.get(column)) {
        all.or(sets[column]);
      }
    }
    return all;
  }
}
