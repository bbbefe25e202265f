package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntArrays;
import java.util.Arrays;

/**
 * What comes down from containers to what lies in them, counted and not spelled out: for each kind
 * of thing the privileges, times how many there are. Cost: the nodes, once; then what the roles of
 * a session were given on containers.
 */
final class Containers {
  private static final int KINDS = NodeKind.values().length;

  private final Access access;
  private final Tree tree;
  private final Grants grants;

  /** The containers by their own numbers, the outer ones first; and the number of each. */
  private final IntArrayList containers = new IntArrayList();

  private final Int2IntOpenHashMap numberOf = new Int2IntOpenHashMap();

  /** Of each container, by number, the next one around it that is one; -1 for none. */
  private int[] around = {};

  /** Of each container and kind how many nodes it holds, at any depth. */
  private int[] holds = {};

  /** Of each node the number of its container and its kind, in one: two fetches would cost more. */
  private int[] homeAndKind = {};

  /** Of each grantee the grants that come down. */
  private final Int2ObjectOpenHashMap<IntArrayList> comingDown = new Int2ObjectOpenHashMap<>();

  /** What comes down from each container in this count, for each kind: privileges and a flag. */
  private long[] given = {};

  /** What of that may be granted on. */
  private long[] grantable = {};

  /** The numbers of those something comes down from, and whether a number is one of them. */
  private final IntArrayList giving = new IntArrayList();

  private boolean[] gives = {};

  /** Of each container the nearest one that gives, itself or around it; -1 for none. */
  private int[] nearest = {};

  private boolean anyGrantable;

  Containers(Access access, Gathering gathering, boolean withSystem) {
    this.access = access;
    this.tree = access.tree();
    this.grants = access.grants();
    findGrants();
    if (!comingDown.isEmpty() || access.rules().ownership() == Ownership.SCHEMA || anyPower()) {
      findContainers();
      for (int node = 1; node < tree.size(); node++) {
        int kind = tree.kind(node).ordinal();
        int home = numberOf.get(tree.parent(node));
        homeAndKind[node] = home * KINDS + kind;
        boolean counts = withSystem || !gathering.isSystem(node);
        for (int at = home; counts && at >= 0; at = around[at]) {
          holds[at * KINDS + kind]++;
        }
      }
    }
  }

  private void findContainers() {
    numberOf.defaultReturnValue(None.NODE);
    for (int node = 0; node < tree.size(); node++) {
      if (!tree.kind(node).isObject()) {
        numberOf.put(node, containers.size());
        containers.add(node);
      }
    }
    around = new int[containers.size()];
    for (int number = 0; number < around.length; number++) {
      around[number] = numberOf.get(tree.parent(containers.getInt(number)));
    }
    holds = new int[containers.size() * KINDS];
    given = new long[holds.length];
    grantable = new long[holds.length];
    gives = new boolean[containers.size()];
    nearest = new int[containers.size()];
    homeAndKind = new int[tree.size()];
  }

  private void findGrants() {
    boolean any = false;
    for (int id = 0; id < grants.differentTerms(); id++) {
      any |= grants.termsAt(id).covers() != 0;
    }
    Adjacency byGrantee = grants.byGrantee();
    for (int grantee = 0; any && grantee < access.principals().size(); grantee++) {
      for (int place = byGrantee.from(grantee); place < byGrantee.to(grantee); place++) {
        int row = byGrantee.row(place);
        if (grants.terms(row).covers() != 0 && grants.columns(row) == ColumnSets.WHOLE) {
          comingDown.computeIfAbsent(grantee, fresh -> new IntArrayList()).add(row);
        }
      }
    }
  }

  private boolean anyPower() {
    return !access.rules().powers().isEmpty() && !access.principals().powerful().isEmpty();
  }

  /** Forgets what was added. */
  void begin() {
    for (int i = 0; i < giving.size(); i++) {
      int number = giving.getInt(i);
      gives[number] = false;
      Arrays.fill(given, number * KINDS, (number + 1) * KINDS, 0);
      Arrays.fill(grantable, number * KINDS, (number + 1) * KINDS, 0);
    }
    giving.clear();
    anyGrantable = false;
  }

  /** Adds what comes down to things from the containers of a session that is no superuser's. */
  void add(Session session) {
    for (int i = 0; i < session.roles().size(); i++) {
      int role = session.roles().getInt(i);
      IntArrayList rows = comingDown.get(role);
      for (int at = 0; rows != null && at < rows.size(); at++) {
        Terms terms = grants.terms(rows.getInt(at));
        for (NodeKind kind : NodeKind.values()) {
          if ((terms.covers() & kind.bit()) != 0) {
            long mine = access.rules().privilegesOn(kind);
            long canGrant = terms.grantable() & mine;
            add(grants.node(rows.getInt(at)), kind, terms.privileges() & mine, canGrant);
          }
        }
      }
      addOwned(role);
    }
    for (Power power : Power.values()) {
      for (NodeKind kind : NodeKind.values()) {
        long opened = access.rules().opened(power, kind);
        if ((session.powers() & power.bit()) != 0 && opened != 0) {
          add(0, kind, opened, 0);
        }
      }
    }
  }

  private void addOwned(int role) {
    if (access.rules().ownership() != Ownership.SCHEMA) {
      return;
    }
    for (int at = tree.owned().from(role); at < tree.owned().to(role); at++) {
      int schema = tree.owned().row(at);
      if (tree.kind(schema) == NodeKind.SCHEMA) {
        for (NodeKind kind : NodeKind.values()) {
          long all = access.rules().privilegesOn(kind);
          add(schema, kind, all, all);
        }
      }
    }
  }

  private void add(int container, NodeKind kind, long privileges, long canGrant) {
    if (privileges != 0 || canGrant != 0) {
      int number = numberOf.get(container);
      if (!gives[number]) {
        gives[number] = true;
        giving.add(number);
      }
      int at = number * KINDS + kind.ordinal();
      given[at] |= privileges | (canGrant != 0 ? QuickCount.GRANTABLE : 0);
      grantable[at] |= canGrant;
      anyGrantable |= canGrant != 0;
    }
  }

  /** Whether something that comes down may be granted on. */
  boolean anyGrantable() {
    return anyGrantable;
  }

  /** Lets everything come down to the containers inside as well, and counts it. */
  long finish() {
    // a container comes before what is in it
    IntArrays.quickSort(giving.elements(), 0, giving.size());
    long rows = 0;
    for (int i = 0; i < giving.size(); i++) {
      int number = giving.getInt(i);
      int outer = nearestFrom(around[number]);
      for (int kind = 0; kind < KINDS; kind++) {
        long above = outer < 0 ? 0 : given[outer * KINDS + kind];
        int at = number * KINDS + kind;
        given[at] |= above;
        grantable[at] |= outer < 0 ? 0 : grantable[outer * KINDS + kind];
        rows += (long) holds[at] * (privileges(given[at]) - privileges(above));
      }
    }
    for (int number = 0; !giving.isEmpty() && number < nearest.length; number++) {
      int outer = around[number];
      nearest[number] = gives[number] || outer < 0 ? numberIfGiving(number) : nearest[outer];
    }
    return rows;
  }

  private int numberIfGiving(int number) {
    return gives[number] ? number : -1;
  }

  private static int privileges(long word) {
    return Long.bitCount(word & ~QuickCount.GRANTABLE);
  }

  private int nearestFrom(int number) {
    int at = number;
    while (at >= 0 && !gives[at]) {
      at = around[at];
    }
    return at;
  }

  /** What comes down to a node: privileges, and the flag if any of it may be granted on. */
  long above(int node) {
    int at = placeAbove(node);
    return at < 0 ? 0 : given[at];
  }

  /** Adds what comes down to a node to a sum. */
  void addAbove(int node, Tally sum) {
    int at = placeAbove(node);
    if (at >= 0) {
      sum.add(node, given[at] & ~QuickCount.GRANTABLE, grantable[at]);
    }
  }

  /** Where in {@link #given} it is said what comes down to a node; -1 for nowhere. */
  private int placeAbove(int node) {
    if (giving.isEmpty() || node == 0) {
      return -1;
    }
    int at = homeAndKind[node];
    int giver = nearest[at / KINDS];
    return giver < 0 ? -1 : giver * KINDS + at % KINDS;
  }
}
