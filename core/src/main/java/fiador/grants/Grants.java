package fiador.grants;

import fiador.estate.Adjacency;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

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
  private final Adjacency byGrantee;
  private final Adjacency byNode;

  /** Where rows added later are; their numbers follow on. Null where there are none. */
  private final Grants more;

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
    this.byGrantee = Adjacency.ofOrdered(principals, this.grantee);
    this.more = null;
    this.terms = terms.toArray(Terms[]::new);
    this.byNode = Adjacency.group(nodes, this.node);
  }

  /** Rows that are only there to be added to others: in no order and no runs. */
  private Grants(
      int[] grantee, int[] node, int[] termsOf, int[] columns, int[] grantor, List<Terms> terms) {
    this.grantee = grantee;
    this.node = node;
    this.termsOf = termsOf;
    this.columns = columns;
    this.grantor = grantor;
    this.terms = terms.toArray(Terms[]::new);
    this.byGrantee = null;
    this.byNode = null;
    this.more = null;
  }

  static Grants loose(
      int[] grantee, int[] node, int[] termsOf, int[] columns, int[] grantor, List<Terms> terms) {
    return new Grants(grantee, node, termsOf, columns, grantor, terms);
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

  private Grants(Grants base, Grants more, Adjacency byGrantee, Adjacency byNode) {
    this.grantee = base.grantee;
    this.node = base.node;
    this.termsOf = base.termsOf;
    this.columns = base.columns;
    this.grantor = base.grantor;
    this.terms = more.terms;
    this.byGrantee = byGrantee;
    this.byNode = byNode;
    this.more = more;
  }

  /**
   * These rows without some of them and with some more, sharing all that stays.
   *
   * @param removed rows that are out of all runs; they can still be looked at by their number
   * @param added rows in a form of their own, with all of these terms and further ones
   */
  Grants with(IntSet removed, Grants added) {
    int first = size();
    Map<Integer, IntArrayList> grantees = new HashMap<>();
    Map<Integer, IntArrayList> nodes = new HashMap<>();
    removed.forEach(
        (int row) -> {
          run(grantees, byGrantee, grantee(row)).rem(row);
          run(nodes, byNode, node(row)).rem(row);
        });
    for (int row = 0; row < added.grantee.length; row++) {
      run(grantees, byGrantee, added.grantee[row]).add(first + row);
      run(nodes, byNode, added.node[row]).add(first + row);
    }
    Grants further = more == null ? added : more.followedBy(added);
    return new Grants(this, further, patched(byGrantee, grantees), patched(byNode, nodes));
  }

  /** Rows that are added to others, and some more of them. */
  private Grants followedBy(Grants added) {
    return loose(
        joined(grantee, added.grantee),
        joined(node, added.node),
        joined(termsOf, added.termsOf),
        joined(columns, added.columns),
        joined(grantor, added.grantor),
        List.of(added.terms));
  }

  private static int[] joined(int[] one, int[] other) {
    int[] both = Arrays.copyOf(one, one.length + other.length);
    System.arraycopy(other, 0, both, one.length, other.length);
    return both;
  }

  /** The same rows, where there are more nodes, on which nothing was granted. */
  Grants forMoreNodes() {
    int[] none = new int[0];
    Grants nothing = loose(none, none, none, none, none, List.of(terms));
    return new Grants(this, more == null ? nothing : more, byGrantee, byNode.patched(Map.of()));
  }

  static IntArrayList run(Map<Integer, IntArrayList> runs, Adjacency of, int id) {
    return runs.computeIfAbsent(id, fresh -> IntArrayList.wrap(of.runOrNone(id)));
  }

  static Adjacency patched(Adjacency base, Map<Integer, IntArrayList> runs) {
    Map<Integer, int[]> arrays = new HashMap<>();
    runs.forEach((id, run) -> arrays.put(id, run.toIntArray()));
    return base.patched(arrays);
  }

  /** The terms, to make further rows with. */
  Terms[] allTerms() {
    return terms;
  }

  /** How many rows there are or were: row numbers are below it. */
  public int size() {
    return grantee.length + (more == null ? 0 : more.grantee.length);
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
    return row < grantee.length ? grantee[row] : more.grantee[row - grantee.length];
  }

  /** What it is on. */
  public int node(int row) {
    return row < node.length ? node[row] : more.node[row - node.length];
  }

  /** What it gives. */
  public Terms terms(int row) {
    return terms[termsId(row)];
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
    return row < termsOf.length ? termsOf[row] : more.termsOf[row - termsOf.length];
  }

  /** The id of its column set, or {@link ColumnSets#WHOLE}. */
  public int columns(int row) {
    return row < columns.length ? columns[row] : more.columns[row - columns.length];
  }

  /** Who gave it, or -1. */
  public int grantor(int row) {
    return row < grantor.length ? grantor[row] : more.grantor[row - grantor.length];
  }
}
