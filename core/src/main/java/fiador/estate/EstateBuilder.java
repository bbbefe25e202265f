package fiador.estate;

import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Collects nodes and principals and makes an {@link Estate}. Ids are handed out in the order of the
 * calls, from 0 without gaps; PUBLIC is there from the start.
 */
public final class EstateBuilder {
  private final Names names = new Names();

  private final IntArrayList parent = new IntArrayList();
  private final IntArrayList kind = new IntArrayList();
  private final IntArrayList name = new IntArrayList();
  private final IntArrayList owner = new IntArrayList();
  private final IntArrayList facts = new IntArrayList();
  private final Int2LongOpenHashMap withheld = new Int2LongOpenHashMap();
  private final IntArrayList columnStart = new IntArrayList(new int[] {0});
  private final IntArrayList columnNames = new IntArrayList();
  private final IntArrayList columnTypes = new IntArrayList();

  private final IntArrayList principalName = new IntArrayList();
  private final IntArrayList principalKind = new IntArrayList();
  private final IntArrayList powers = new IntArrayList();
  private final IntArrayList scope = new IntArrayList();
  private final Map<Integer, Account> accounts = new HashMap<>();

  /** A builder that holds PUBLIC and nothing else. */
  public EstateBuilder() {
    principal(PrincipalKind.PUBLIC, "PUBLIC", 0, None.NODE);
  }

  /** The texts interned so far. */
  public Names names() {
    return names;
  }

  /** How many nodes there are so far. */
  public int nodes() {
    return parent.size();
  }

  /** How many principals there are so far. */
  public int principals() {
    return principalName.size();
  }

  /** What a node is in, or -1. */
  public int parent(int node) {
    return parent.getInt(node);
  }

  /** What the node is. */
  public NodeKind kind(int node) {
    return NodeKind.at(kind.getInt(node));
  }

  /**
   * Adds a node.
   *
   * @param in its container, or -1 for the server
   * @param ownedBy a principal, or -1
   * @return its id
   */
  public int node(int in, NodeKind nodeKind, String nodeName, int ownedBy) {
    return node(in, nodeKind, names.intern(nodeName), ownedBy, 0);
  }

  /** As the other, with the name already interned and bits of {@link NodeFact}. */
  public int node(int in, NodeKind nodeKind, int nameId, int ownedBy, int factBits) {
    parent.add(in);
    kind.add(nodeKind.ordinal());
    name.add(nameId);
    owner.add(ownedBy);
    facts.add(factBits);
    columnStart.add(columnNames.size());
    return parent.size() - 1;
  }

  /** Adds a fact to a node. */
  public EstateBuilder fact(int node, NodeFact fact) {
    facts.set(node, facts.getInt(node) | fact.bit());
    return this;
  }

  /** Takes a fact from a node. */
  public EstateBuilder unset(int node, NodeFact fact) {
    facts.set(node, facts.getInt(node) & ~fact.bit());
    return this;
  }

  /** Whether a fact holds of a node. */
  public boolean is(int node, NodeFact fact) {
    return (facts.getInt(node) & fact.bit()) != 0;
  }

  /** Says what the owner of a node has taken away from themselves. */
  public EstateBuilder withheld(int node, long privileges) {
    if (privileges != 0) {
      withheld.put(node, privileges);
    }
    return this;
  }

  /** Adds a column to the node that was added last. */
  public EstateBuilder column(String columnName) {
    return column(names.intern(columnName));
  }

  /** Adds a column, by interned name, to the node that was added last. */
  public EstateBuilder column(int nameId) {
    columnNames.add(nameId);
    columnStart.set(parent.size(), columnNames.size());
    return this;
  }

  /** Says what the column that was added last holds. */
  public EstateBuilder type(ColumnType type) {
    // what was not said before is not known
    columnTypes.size(columnNames.size() - 1);
    columnTypes.add(type.ordinal());
    return this;
  }

  /** Adds columns to the node that was added last. */
  public EstateBuilder columns(List<String> columns) {
    columns.forEach(this::column);
    return this;
  }

  /** How many columns a node has. */
  public int columns(int node) {
    return columnStart.getInt(node + 1) - columnStart.getInt(node);
  }

  /** The ordinal of a node's column by the interned name, or -1. */
  public int columnOrdinal(int node, int nameId) {
    int from = columnStart.getInt(node);
    for (int at = from; at < columnStart.getInt(node + 1); at++) {
      if (columnNames.getInt(at) == nameId) {
        return at - from;
      }
    }
    return None.COLUMN;
  }

  /** The names of a node's columns, in their order. */
  public List<String> columnNames(int node) {
    List<String> found = new ArrayList<>();
    for (int at = columnStart.getInt(node); at < columnStart.getInt(node + 1); at++) {
      found.add(names.text(columnNames.getInt(at)));
    }
    return found;
  }

  /** The ordinals of a node's columns, by name. */
  public Map<String, Integer> columnOrdinals(int node) {
    Map<String, Integer> ordinals = new HashMap<>();
    for (int ordinal = 0; ordinal < columns(node); ordinal++) {
      ordinals.put(names.text(columnNames.getInt(columnStart.getInt(node) + ordinal)), ordinal);
    }
    return ordinals;
  }

  /**
   * Adds a user or role.
   *
   * @param powerBits bits of {@link Power}
   * @param localTo the database it is local to, or -1
   * @return its id
   */
  public int principal(
      PrincipalKind principalKindOf, String principalNameOf, int powerBits, int localTo) {
    principalName.add(names.intern(principalNameOf));
    principalKind.add(principalKindOf.ordinal());
    powers.add(powerBits);
    scope.add(localTo);
    return principalName.size() - 1;
  }

  /** Adds powers to a principal. */
  public EstateBuilder power(int principal, Power power) {
    powers.set(principal, powers.getInt(principal) | power.bit());
    return this;
  }

  /** Says what is known of an account. */
  public EstateBuilder account(int principal, Account account) {
    if (!account.isPlain()) {
      accounts.put(principal, account);
    }
    return this;
  }

  /** The estate. Cost: its size. */
  public Estate build() {
    Tree.Rows rows =
        new Tree.Rows(
            parent.toIntArray(),
            kind.toIntArray(),
            name.toIntArray(),
            owner.toIntArray(),
            facts.toIntArray(),
            columnStart.toIntArray(),
            columnNames.toIntArray(),
            columnTypes.toIntArray());
    Principals people =
        new Principals(
            names,
            principalName.toIntArray(),
            principalKind.toIntArray(),
            powers.toIntArray(),
            scope.toIntArray(),
            AccountColumns.of(accounts));
    return new Estate(names, new Tree(names, rows, Withheld.of(withheld), principals()), people);
  }
}
