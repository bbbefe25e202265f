package fiador.grants;

import fiador.estate.Adjacency;
import java.util.List;

/**
 * Grants (or denials) as rows of ints, ordered by grantee, walkable from the grantee and from the
 * node. No object per grant.
 */
public final class Grants {
  private final int[] grantee;
  private final int[] node;
  private final int[] termsOf;
  private final int[] columns;
  private final int[] grantor;
  private final Terms[] terms;
  private final int[] start;
  private final Adjacency byNode;

  Grants(
      int principals,
      int nodes,
      int[] grantee,
      int[] node,
      int[] termsOf,
      int[] columns,
      int[] grantor,
      List<Terms> terms) {
    // rows of one grantee lie side by side, by node, because questions about users read them in one
    // go and touch memory in order; a survey file written by us has them so already
    if (isOrdered(grantee, node)) {
      this.grantee = grantee;
      this.node = node;
      this.termsOf = termsOf;
      this.columns = columns;
      this.grantor = grantor;
    } else {
      Adjacency order = Adjacency.group(nodes, node).regrouped(principals, grantee);
      this.grantee = ordered(grantee, order);
      this.node = ordered(node, order);
      this.termsOf = ordered(termsOf, order);
      this.columns = ordered(columns, order);
      this.grantor = ordered(grantor, order);
    }
    this.start = Adjacency.starts(principals, this.grantee);
    this.terms = terms.toArray(Terms[]::new);
    this.byNode = Adjacency.group(nodes, this.node);
  }

  private static boolean isOrdered(int[] grantee, int[] node) {
    for (int row = 1; row < grantee.length; row++) {
      if (grantee[row] < grantee[row - 1]
          || grantee[row] == grantee[row - 1] && node[row] < node[row - 1]) {
        return false;
      }
    }
    return true;
  }

  private static int[] ordered(int[] values, Adjacency order) {
    int[] sorted = new int[values.length];
    for (int place = 0; place < sorted.length; place++) {
      sorted[place] = values[order.row(place)];
    }
    return sorted;
  }

  /** How many rows there are. */
  public int size() {
    return grantee.length;
  }

  /** The first row of a grantee; they follow each other. */
  public int from(int granteeId) {
    return start[granteeId];
  }

  /** Behind the last row of a grantee. */
  public int to(int granteeId) {
    return start[granteeId + 1];
  }

  /** The rows by node. */
  public Adjacency byNode() {
    return byNode;
  }

  /** Who was given it. */
  public int grantee(int row) {
    return grantee[row];
  }

  /** What it is on. */
  public int node(int row) {
    return node[row];
  }

  /** What it gives. */
  public Terms terms(int row) {
    return terms[termsOf[row]];
  }

  /** How many different terms the rows have. */
  public int differentTerms() {
    return terms.length;
  }

  /** The terms of an id. */
  public Terms termsAt(int id) {
    return terms[id];
  }

  /** The id of what it gives; rows of the same id give the same. */
  public int termsId(int row) {
    return termsOf[row];
  }

  /** The id of its column set, or {@link ColumnSets#WHOLE}. */
  public int columns(int row) {
    return columns[row];
  }

  /** Who gave it, or -1. */
  public int grantor(int row) {
    return grantor[row];
  }
}
