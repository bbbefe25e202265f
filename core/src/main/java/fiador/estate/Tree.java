package fiador.estate;

import it.unimi.dsi.fastutil.ints.Int2LongMap;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;

/**
 * The tree of things that privileges are on, by node id. Node 0 is the server; a parent's id is
 * smaller than its children's.
 */
public final class Tree {
  private final Names names;
  private final int[] parent;
  private final byte[] kind;
  private final int[] name;
  private final int[] owner;
  private final short[] facts;
  private final Int2LongMap withheld;
  private final Adjacency children;
  private final Adjacency owned;
  private final int[] columnStart;
  private final int[] columnNames;
  private final byte[] columnTypes;

  Tree(
      Names names,
      int[] parent,
      byte[] kind,
      int[] name,
      int[] owner,
      short[] facts,
      Int2LongMap withheld,
      int principals,
      int[] columnStart,
      int[] columnNames,
      byte[] columnTypes) {
    this.names = names;
    this.parent = parent;
    this.kind = kind;
    this.name = name;
    this.owner = owner;
    this.facts = facts;
    this.withheld = withheld;
    this.children = Adjacency.group(parent.length, parent);
    this.owned = Adjacency.group(principals, owner);
    this.columnStart = columnStart;
    this.columnNames = columnNames;
    this.columnTypes = columnTypes;
  }

  private Tree(Tree base, int[] owner, Int2LongMap withheld, Adjacency owned) {
    this.names = base.names;
    this.parent = base.parent;
    this.kind = base.kind;
    this.name = base.name;
    this.owner = owner;
    this.facts = base.facts;
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
    int[] changed = owner.clone();
    Int2LongOpenHashMap still = new Int2LongOpenHashMap(withheld);
    owners.forEach((node, to) -> changed[node] = to);
    without.forEach(
        (node, bits) -> {
          still.remove((int) node);
          if (bits != 0) {
            still.put((int) node, (long) bits);
          }
        });
    return new Tree(this, changed, still, Adjacency.group(principals, changed));
  }

  /** The same tree, for more principals, who own nothing. */
  public Tree withPrincipals(int principals) {
    return new Tree(this, owner, withheld, Adjacency.group(principals, owner));
  }

  /**
   * A view that is not there yet.
   *
   * @param in its schema
   * @param like the table whose columns it has
   */
  public record NewView(int in, String name, int like) {}

  /** The same tree with more views, whose ids follow. Cost: its size. */
  public Tree withViews(List<NewView> views, int principals) {
    int was = size();
    int[] parents = Arrays.copyOf(parent, was + views.size());
    byte[] kinds = Arrays.copyOf(kind, parents.length);
    int[] ownNames = Arrays.copyOf(name, parents.length);
    int[] owners = Arrays.copyOf(owner, parents.length);
    IntArrayList starts = new IntArrayList(columnStart);
    IntArrayList columns = new IntArrayList(columnNames);
    IntArrayList types = new IntArrayList();
    for (int at = 0; at < columnNames.length; at++) {
      types.add(at < columnTypes.length ? columnTypes[at] : ColumnType.OTHER.ordinal());
    }
    for (int i = was; i < parents.length; i++) {
      NewView view = views.get(i - was);
      parents[i] = view.in();
      kinds[i] = (byte) NodeKind.VIEW.ordinal();
      ownNames[i] = names.intern(view.name());
      owners[i] = -1;
      for (int ordinal = 0; ordinal < columns(view.like()); ordinal++) {
        columns.add(columnNames[columnStart[view.like()] + ordinal]);
        types.add(columnType(view.like(), ordinal).ordinal());
      }
      starts.add(columns.size());
    }
    return new Tree(
        names,
        parents,
        kinds,
        ownNames,
        owners,
        Arrays.copyOf(facts, parents.length),
        withheld,
        principals,
        starts.toIntArray(),
        columns.toIntArray(),
        EstateBuilder.bytes(types));
  }

  /** How many nodes there are. */
  public int size() {
    return parent.length;
  }

  /** The container of a node, -1 for the server. */
  public int parent(int node) {
    return parent[node];
  }

  /** What a node is. */
  public NodeKind kind(int node) {
    return NodeKind.at(kind[node]);
  }

  /** The node's own name, without its containers'. */
  public String name(int node) {
    return names.text(name[node]);
  }

  /**
   * All nodes of that very name, wherever they are. Cost: the nodes, without making a text of any.
   */
  public IntArrayList named(String wanted) {
    IntArrayList found = new IntArrayList();
    int id = names.find(wanted);
    for (int node = 0; id >= 0 && node < name.length; node++) {
      if (name[node] == id) {
        found.add(node);
      }
    }
    return found;
  }

  /** The principal who owns the node, or -1. */
  public int owner(int node) {
    return owner[node];
  }

  /** Whether a fact holds of the node. */
  public boolean is(int node, NodeFact fact) {
    return (facts[node] & fact.bit()) != 0;
  }

  /** What the owner has taken away from themselves, as a set of privileges. */
  public long withheld(int node) {
    return withheld.get(node);
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
    return columnStart[node + 1] - columnStart[node];
  }

  /** The name of a node's column, counted from 0. */
  public String column(int node, int ordinal) {
    return names.text(columnNames[columnStart[node] + ordinal]);
  }

  /** What a node's column holds; OTHER where that was not surveyed. */
  public ColumnType columnType(int node, int ordinal) {
    int at = columnStart[node] + ordinal;
    return at < columnTypes.length ? ColumnType.at(columnTypes[at]) : ColumnType.OTHER;
  }

  /** The ordinal of the column of that name, or -1. Cost: the node's columns. */
  public int columnNamed(int node, String column) {
    int wanted = names.find(column);
    for (int ordinal = 0; wanted >= 0 && ordinal < columns(node); ordinal++) {
      if (columnNames[columnStart[node] + ordinal] == wanted) {
        return ordinal;
      }
    }
    return None.COLUMN;
  }

  /** The innermost container of that kind around the node, or the node itself; -1 if none. */
  public int enclosing(int node, NodeKind wanted) {
    int at = node;
    while (at >= 0 && kind[at] != wanted.ordinal()) {
      at = parent[at];
    }
    return at;
  }

  /** True when {@code node} lies in {@code container}, at any depth; not for the node itself. */
  public boolean isInside(int node, int container) {
    int at = parent[node];
    while (at > container) {
      at = parent[at];
    }
    return at == container;
  }

  /** True when the node or a container of it belongs to the server itself. */
  public boolean isSystem(int node) {
    for (int at = node; at >= 0; at = parent[at]) {
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
      if (name[node] == wanted && test.test(node)) {
        return node;
      }
    }
    return None.NODE;
  }

  /**
   * The dotted path without the server, as the machine contract writes it; empty for the server.
   */
  public String path(int node) {
    Deque<String> parts = new ArrayDeque<>();
    for (int at = node; parent[at] >= 0; at = parent[at]) {
      boolean routine = kind(at) == NodeKind.ROUTINE;
      parts.push(routine ? DottedName.quotedRoutine(name(at)) : DottedName.quoted(name(at)));
    }
    return String.join(".", parts);
  }
}
