package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import fiador.columns.PackedReader;
import fiador.columns.PackedWriter;
import fiador.estate.Adjacency;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Grants (or denials) as rows of ints, ordered by grantee, walkable from the grantee and from the
 * node. No object per grant.
 */
public final class Grants {
  private final Ints grantee;
  private final Ints node;
  private final Ints termsOf;
  private final Ints columns;
  private final Ints grantor;
  private final Terms[] terms;
  private final Adjacency byGrantee;
  private final Adjacency byNode;

  /**
   * The grantees by place of {@link #byNode}, so that who is given something on a node is read in
   * one go; null where rows lie in memory and are as near by themselves.
   */
  private final Ints granteeByNode;

  /** Where rows added later are; their numbers follow on. Null where there are none. */
  private final Grants more;

  /** What each row says. */
  record Rows(int[] grantee, int[] node, int[] termsOf, int[] columns, int[] grantor) {
    private Rows inOrder(Adjacency order) {
      return new Rows(
          ordered(grantee, order),
          ordered(node, order),
          ordered(termsOf, order),
          ordered(columns, order),
          ordered(grantor, order));
    }

    private static int[] ordered(int[] values, Adjacency order) {
      int[] sorted = new int[values.length];
      for (int place = 0; place < sorted.length; place++) {
        sorted[place] = values[order.row(place)];
      }
      return sorted;
    }
  }

  Grants(int principals, int nodes, Rows given, List<Terms> terms) {
    // rows of one grantee lie side by side, by node, because questions about users read them in one
    // go and touch memory in order; a survey file written by us has them so already
    Rows rows =
        isOrdered(given.grantee, given.node)
            ? given
            : given.inOrder(
                Adjacency.group(nodes, given.node).regrouped(principals, given.grantee));
    this.grantee = Ints.of(rows.grantee);
    this.node = Ints.of(rows.node);
    this.termsOf = Ints.of(rows.termsOf);
    this.columns = Ints.of(rows.columns);
    this.grantor = Ints.of(rows.grantor);
    this.byGrantee = Adjacency.ofOrdered(principals, rows.grantee);
    this.more = null;
    this.terms = terms.toArray(Terms[]::new);
    this.byNode = Adjacency.group(nodes, rows.node);
    this.granteeByNode = null;
  }

  /** Rows that are only there to be added to others: in no order and no runs. */
  private Grants(Rows rows, List<Terms> terms) {
    this.grantee = Ints.of(rows.grantee);
    this.node = Ints.of(rows.node);
    this.termsOf = Ints.of(rows.termsOf);
    this.columns = Ints.of(rows.columns);
    this.grantor = Ints.of(rows.grantor);
    this.terms = terms.toArray(Terms[]::new);
    this.byGrantee = null;
    this.byNode = null;
    this.granteeByNode = null;
    this.more = null;
  }

  private Grants(String name, ColumnSource source) {
    this.grantee = source.ints(name + ".grantee");
    this.node = source.ints(name + ".node");
    this.termsOf = source.ints(name + ".terms_of");
    this.columns = source.ints(name + ".columns");
    this.grantor = source.ints(name + ".grantor");
    this.byGrantee = Adjacency.take(name + ".by_grantee", source);
    this.byNode = Adjacency.take(name + ".by_node", source);
    this.granteeByNode = source.ints(name + ".by_node.grantee");
    this.more = null;
    PackedReader packed = new PackedReader(name + ".terms", source);
    this.terms =
        packed
            .list(
                () ->
                    new Terms(
                        packed.bits(),
                        packed.bits(),
                        packed.number(),
                        packed.bits(),
                        packed.number(),
                        packed.number()))
            .toArray(Terms[]::new);
  }

  /** The rows that {@link #put} laid down. Cost: the different terms. */
  static Grants take(String name, ColumnSource source) {
    return new Grants(name, source);
  }

  /**
   * Lays the rows down.
   *
   * @throws IllegalStateException when there are rows that are only supposed
   */
  void put(String name, ColumnSink sink) {
    sink.ints(name + ".grantee", grantee);
    sink.ints(name + ".node", node);
    sink.ints(name + ".terms_of", termsOf);
    sink.ints(name + ".columns", columns);
    sink.ints(name + ".grantor", grantor);
    byGrantee.put(name + ".by_grantee", sink);
    byNode.put(name + ".by_node", sink);
    int[] grantees = new int[size()];
    for (int place = 0; place < grantees.length; place++) {
      grantees[place] = granteeAt(place);
    }
    sink.ints(name + ".by_node.grantee", Ints.of(grantees));
    PackedWriter packed = new PackedWriter();
    packed
        .each(
            List.of(terms),
            each ->
                packed
                    .bits(each.privileges())
                    .bits(each.grantable())
                    .number(each.covers())
                    .bits(each.until())
                    .number(each.pattern())
                    .number(each.label()))
        .put(name + ".terms", sink);
  }

  static Grants loose(Rows rows, List<Terms> terms) {
    return new Grants(rows, terms);
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

  private Grants(Grants base, Grants more, Adjacency byGrantee, Adjacency byNode) {
    this.grantee = base.grantee;
    this.node = base.node;
    this.termsOf = base.termsOf;
    this.columns = base.columns;
    this.grantor = base.grantor;
    this.terms = more.terms;
    this.byGrantee = byGrantee;
    this.byNode = byNode;
    this.granteeByNode = base.granteeByNode;
    this.more = more;
  }

  /** Whether anything was given by a label. Cost: the different terms. */
  public boolean anyLabel() {
    for (Terms each : terms) {
      if (each.label() != Terms.NO_LABEL) {
        return true;
      }
    }
    return false;
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
    for (int row = 0; row < added.grantee.size(); row++) {
      run(grantees, byGrantee, added.grantee.get(row)).add(first + row);
      run(nodes, byNode, added.node.get(row)).add(first + row);
    }
    Grants further = more == null ? added : more.followedBy(added);
    return new Grants(this, further, patched(byGrantee, grantees), patched(byNode, nodes));
  }

  /** Rows that are added to others, and some more of them. */
  private Grants followedBy(Grants added) {
    return loose(
        new Rows(
            joined(grantee, added.grantee),
            joined(node, added.node),
            joined(termsOf, added.termsOf),
            joined(columns, added.columns),
            joined(grantor, added.grantor)),
        List.of(added.terms));
  }

  private static int[] joined(Ints one, Ints other) {
    int[] both = one.toArray(one.size() + other.size());
    System.arraycopy(other.toArray(), 0, both, one.size(), other.size());
    return both;
  }

  /** The same rows, where there are more nodes, on which nothing was granted. */
  Grants forMoreNodes() {
    int[] none = new int[0];
    Grants nothing = loose(new Rows(none, none, none, none, none), List.of(terms));
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

  /** Whether rows of one grantee are numbered side by side, by node, as they are built. */
  public boolean isOrdered() {
    return byGrantee.isIdentity();
  }

  /**
   * The first row of a grantee that is on the node or one behind it; where there is none, the end
   * of the grantee's run. For rows that are ordered. Cost: halving the run.
   */
  public int firstOn(int grantee, int wanted) {
    int low = byGrantee.from(grantee);
    int high = byGrantee.to(grantee);
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (node.get(middle) < wanted) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** How many rows there are or were: row numbers are below it. */
  public int size() {
    return grantee.size() + (more == null ? 0 : more.grantee.size());
  }

  /** The rows by grantee. */
  public Adjacency byGrantee() {
    return byGrantee;
  }

  /** The rows by node. */
  public Adjacency byNode() {
    return byNode;
  }

  /** What the rows are on, as they were built: of no use where rows are added or taken. */
  public Ints nodes() {
    return node;
  }

  /** The ids of the terms of the rows, as for {@link #nodes}. */
  public Ints termsIds() {
    return termsOf;
  }

  /** The column sets of the rows, as for {@link #nodes}. */
  public Ints columnSets() {
    return columns;
  }

  /** Who was given it. */
  public int grantee(int row) {
    return row < grantee.size() ? grantee.get(row) : more.grantee.get(row - grantee.size());
  }

  /** Who was given the row at a place of {@link #byNode}. */
  public int granteeAt(int place) {
    return granteeByNode != null && place < granteeByNode.size()
        ? granteeByNode.get(place)
        : grantee(byNode.row(place));
  }

  /** What it is on. */
  public int node(int row) {
    return row < node.size() ? node.get(row) : more.node.get(row - node.size());
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
    return row < termsOf.size() ? termsOf.get(row) : more.termsOf.get(row - termsOf.size());
  }

  /** The id of its column set, or {@link ColumnSets#WHOLE}. */
  public int columns(int row) {
    return row < columns.size() ? columns.get(row) : more.columns.get(row - columns.size());
  }

  /** Who gave it, or -1. */
  public int grantor(int row) {
    return row < grantor.size() ? grantor.get(row) : more.grantor.get(row - grantor.size());
  }
}
