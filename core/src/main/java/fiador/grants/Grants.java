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
    // rows of one grantee lie side by side, because questions about users read them in one go
    Adjacency order = Adjacency.group(principals, grantee, grantee.length);
    this.grantee = ordered(grantee, order);
    this.node = ordered(node, order);
    this.termsOf = ordered(termsOf, order);
    this.columns = ordered(columns, order);
    this.grantor = ordered(grantor, order);
    this.terms = terms.toArray(Terms[]::new);
    this.start = order.start();
    this.byNode = Adjacency.group(nodes, this.node, this.node.length);
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
