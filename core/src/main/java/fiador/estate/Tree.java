package fiador.estate;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;

/**
 * The tree of things that privileges are on, by node id. Node 0 is the server; a parent's id is
 * smaller than its children's.
 */
public final class Tree {
  private final Names names;
  private final Ints parent;
  private final Ints kind;
  private final Ints name;
  private final Ints owner;
  private final Ints facts;

  /** The nodes that belong to the server itself, without what they hold. */
  private final Ints system;

  /** The nodes of which the server keeps something from everybody. */
  private final Ints guarded;

  /** The containers that let nobody in by a power. */
  private final Ints sealed;

  private final Withheld withheld;
  private final Adjacency children;
  private final Adjacency owned;
  private final Ints columnStart;
  private final Ints columnNames;
  private final Ints columnTypes;

  /** Whose path was asked for last: lists name many things of one container side by side. */
  private Container last;

  /**
   * What is known of each node and of each column.
   *
   * @param columnStart where the columns of each node begin and, behind the last, where those end
   */
  record Rows(
      int[] parent,
      int[] kind,
      int[] name,
      int[] owner,
      int[] facts,
      int[] columnStart,
      int[] columnNames,
      int[] columnTypes) {}

  Tree(Names names, Rows rows, Withheld withheld, int principals) {
    this.names = names;
    this.parent = Ints.of(rows.parent);
    this.kind = Ints.of(rows.kind);
    this.name = Ints.of(rows.name);
    this.owner = Ints.of(rows.owner);
    this.facts = Ints.of(rows.facts);
    this.system = having(rows.facts, NodeFact.SYSTEM);
    this.guarded = having(rows.facts, NodeFact.GUARDED);
    this.sealed = having(rows.facts, NodeFact.SEALED);
    this.withheld = withheld;
    this.children = Adjacency.group(rows.parent.length, rows.parent);
    this.owned = Adjacency.group(principals, rows.owner);
    this.columnStart = Ints.of(rows.columnStart);
    this.columnNames = Ints.of(rows.columnNames);
    this.columnTypes = Ints.of(rows.columnTypes);
  }

  private Tree(Names names, ColumnSource source) {
    this.names = names;
    this.parent = source.ints("tree.parent");
    this.kind = source.ints("tree.kind");
    this.name = source.ints("tree.name");
    this.owner = source.ints("tree.owner");
    this.facts = source.ints("tree.facts");
    this.system = source.ints("tree.system");
    this.guarded = source.ints("tree.guarded");
    this.sealed = source.ints("tree.sealed");
    this.withheld = Withheld.take(source);
    this.children = Adjacency.take("tree.children", source);
    this.owned = Adjacency.take("tree.owned", source);
    this.columnStart = source.ints("tree.columns");
    this.columnNames = source.ints("tree.column_names");
    this.columnTypes = source.ints("tree.column_types");
  }

  private static Ints having(int[] facts, NodeFact fact) {
    IntArrayList nodes = new IntArrayList();
    for (int node = 0; node < facts.length; node++) {
      if ((facts[node] & fact.bit()) != 0) {
        nodes.add(node);
      }
    }
    return Ints.of(nodes.toIntArray());
  }

  /** The tree that {@link #put} laid down. Cost: none until it is asked. */
  static Tree take(Names names, ColumnSource source) {
    return new Tree(names, source);
  }

  /** Lays it down. */
  void put(ColumnSink sink) {
    sink.ints("tree.parent", parent);
    sink.ints("tree.kind", kind);
    sink.ints("tree.name", name);
    sink.ints("tree.owner", owner);
    sink.ints("tree.facts", facts);
    sink.ints("tree.system", system);
    sink.ints("tree.guarded", guarded);
    sink.ints("tree.sealed", sealed);
    withheld.put(sink);
    children.put("tree.children", sink);
    owned.put("tree.owned", sink);
    sink.ints("tree.columns", columnStart);
    sink.ints("tree.column_names", columnNames);
    sink.ints("tree.column_types", columnTypes);
  }

  private Tree(Tree base, Ints owner, Withheld withheld, Adjacency owned) {
    this.names = base.names;
    this.parent = base.parent;
    this.kind = base.kind;
    this.name = base.name;
    this.owner = owner;
    this.facts = base.facts;
    this.system = base.system;
    this.guarded = base.guarded;
    this.sealed = base.sealed;
    this.withheld = withheld;
    this.children = base.children;
    this.owned = owned;
    this.columnStart = base.columnStart;
    this.columnNames = base.columnNames;
    this.columnTypes = base.columnTypes;
  }

  /**
   * The same tree with other owners.
   *
   * @param owners the new owner by node
   * @param without the privileges that a new owner has not from themselves, by node
   * @param principals how many principals there are
   */
  public Tree withOwners(Map<Integer, Integer> owners, Map<Integer, Long> without, int principals) {
    int[] changed = owner.toArray();
    owners.forEach((node, to) -> changed[node] = to);
    Adjacency nowOwned = Adjacency.group(principals, changed);
    return new Tree(this, Ints.of(changed), withheld.with(without), nowOwned);
  }

  /** The same tree, for more principals, who own nothing. Cost: none. */
  public Tree withMorePrincipals() {
    return new Tree(this, owner, withheld, owned.patched(Map.of()));
  }

  /**
   * A view that is not there yet.
   *
   * @param in its schema
   * @param like the table whose columns it has
   */
  public record NewView(int in, String name, int like) {}

  /**
   * The same tree with more views, whose ids follow. Cost: its size.
   *
   * @param renamed other names of things, by their nodes
   */
  public Tree withViews(List<NewView> views, Map<Integer, String> renamed, int principals) {
    int was = size();
    int size = was + views.size();
    int[] parents = parent.toArray(size);
    int[] kinds = kind.toArray(size);
    int[] ownNames = name.toArray(size);
    renamed.forEach((node, other) -> ownNames[node] = names.intern(other));
    int[] owners = owner.toArray(size);
    IntArrayList starts = new IntArrayList(columnStart.toArray());
    IntArrayList columns = new IntArrayList(columnNames.toArray());
    IntArrayList types = new IntArrayList(columnTypes.toArray());
    while (types.size() < columns.size()) {
      types.add(ColumnType.OTHER.ordinal());
    }
    for (int i = was; i < size; i++) {
      NewView view = views.get(i - was);
      parents[i] = view.in();
      kinds[i] = NodeKind.VIEW.ordinal();
      ownNames[i] = names.intern(view.name());
      owners[i] = -1;
      for (int ordinal = 0; ordinal < columns(view.like()); ordinal++) {
        columns.add(columnNames.get(columnStart.get(view.like()) + ordinal));
        types.add(columnType(view.like(), ordinal).ordinal());
      }
      starts.add(columns.size());
    }
    Rows rows =
        new Rows(
            parents,
            kinds,
            ownNames,
            owners,
            facts.toArray(size),
            starts.toIntArray(),
            columns.toIntArray(),
            types.toIntArray());
    return new Tree(names, rows, withheld, principals);
  }

  /** How many nodes there are. */
  public int size() {
    return parent.size();
  }

  /** The container of a node, -1 for the server. */
  public int parent(int node) {
    return parent.get(node);
  }

  /** What a node is. */
  public NodeKind kind(int node) {
    return NodeKind.at(kind.get(node));
  }

  /** The node's own name, without its containers'. */
  public String name(int node) {
    return names.text(name.get(node));
  }

  /** Whether that is the node's own name, by its id among the texts; no text is made for it. */
  public boolean isNamed(int node, int nameId) {
    return name.get(node) == nameId;
  }

  /**
   * All nodes of that very name, wherever they are. Cost: the nodes, without making a text of any.
   */
  public IntArrayList named(String wanted) {
    IntArrayList found = new IntArrayList();
    int id = names.find(wanted);
    for (int node = 0; id >= 0 && node < name.size(); node++) {
      if (name.get(node) == id) {
        found.add(node);
      }
    }
    return found;
  }

  /** The principal who owns the node, or -1. */
  public int owner(int node) {
    return owner.get(node);
  }

  /** Whether a fact holds of the node. */
  public boolean is(int node, NodeFact fact) {
    return (facts.get(node) & fact.bit()) != 0;
  }

  /** What the owner has taken away from themselves, as a set of privileges. */
  public long withheld(int node) {
    return withheld.of(node);
  }

  /** The nodes directly inside, grouped by container. */
  public Adjacency children() {
    return children;
  }

  /** The nodes each principal owns. */
  public Adjacency owned() {
    return owned;
  }

  /** How many columns the node has. */
  public int columns(int node) {
    return columnStart.get(node + 1) - columnStart.get(node);
  }

  /** The name of a node's column, counted from 0. */
  public String column(int node, int ordinal) {
    return names.text(columnNames.get(columnStart.get(node) + ordinal));
  }

  /** What a node's column holds; OTHER where that was not surveyed. */
  public ColumnType columnType(int node, int ordinal) {
    int at = columnStart.get(node) + ordinal;
    return at < columnTypes.size() ? ColumnType.at(columnTypes.get(at)) : ColumnType.OTHER;
  }

  /** The ordinal of the column of that name, or -1. Cost: the node's columns. */
  public int columnNamed(int node, String column) {
    int wanted = names.find(column);
    for (int ordinal = 0; wanted >= 0 && ordinal < columns(node); ordinal++) {
      if (columnNames.get(columnStart.get(node) + ordinal) == wanted) {
        return ordinal;
      }
    }
    return None.COLUMN;
  }

  /** The innermost container of that kind around the node, or the node itself; -1 if none. */
  public int enclosing(int node, NodeKind wanted) {
    int at = node;
    while (at >= 0 && kind.get(at) != wanted.ordinal()) {
      at = parent.get(at);
    }
    return at;
  }

  /** True when {@code node} lies in {@code container}, at any depth; not for the node itself. */
  public boolean isInside(int node, int container) {
    int at = parent.get(node);
    while (at > container) {
      at = parent.get(at);
    }
    return at == container;
  }

  /** The nodes that are said to belong to the server itself; so does what they hold. */
  public Ints system() {
    return system;
  }

  /** The nodes of which the server keeps something from everybody but superusers. */
  public Ints guarded() {
    return guarded;
  }

  /** The containers that let nobody in by a power. */
  public Ints sealed() {
    return sealed;
  }

  /** True when the node or a container of it belongs to the server itself. */
  public boolean isSystem(int node) {
    for (int at = node; at >= 0; at = parent.get(at)) {
      if (is(at, NodeFact.SYSTEM)) {
        return true;
      }
    }
    return false;
  }

  /** The child of that name that passes the test, or -1. Cost: the children of the container. */
  public int child(int container, String childName, IntPredicate test) {
    int wanted = names.find(childName);
    for (int at = children.from(container); wanted >= 0 && at < children.to(container); at++) {
      int node = children.row(at);
      if (name.get(node) == wanted && test.test(node)) {
        return node;
      }
    }
    return None.NODE;
  }

  /**
   * The dotted path without the server, as the machine contract writes it; empty for the server.
   */
  public String path(int node) {
    int container = parent.get(node);
    if (container < 0) {
      return "";
    }
    Container around = last;
    if (around == null || around.node != container) {
      around = new Container(container, path(container));
      last = around;
    }
    boolean routine = kind(node) == NodeKind.ROUTINE;
    String own = routine ? DottedName.quotedRoutine(name(node)) : DottedName.quoted(name(node));
    return around.path.isEmpty() ? own : around.path + "." + own;
  }

  private record Container(int node, String path) {}
}
