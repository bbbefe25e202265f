package fiador.grants;

import fiador.estate.Adjacency;
import java.util.List;

/**
 * Grants (or denials) as rows of ints, walkable from the grantee and from the node. No object per
 * grant.
 */
public final class Grants {
  private final int[] grantee;
  private final int[] node;
  private final int[] termsOf;
  private final int[] columns;
  private final int[] grantor;
  private final Terms[] terms;
  private final Adjacency byGrantee;
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
    this.grantee = grantee;
    this.node = node;
    this.termsOf = termsOf;
    this.columns = columns;
    this.grantor = grantor;
    this.terms = terms.toArray(Terms[]::new);
    this.byGrantee = Adjacency.group(principals, grantee, grantee.length);
    this.byNode = Adjacency.group(nodes, node, node.length);
  }

  /** How many rows there are. */
  public int size() {
    return grantee.length;
  }

  /** The rows by grantee. */
  public Adjacency byGrantee() {
    return byGrantee;
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

  /** The id of its column set, or {@link ColumnSets#WHOLE}. */
  public int columns(int row) {
    return columns[row];
  }

  /** Who gave it, or -1. */
  public int grantor(int row) {
    return grantor[row];
  }
}
