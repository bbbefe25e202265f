package fiador.effects;

import fiador.effects.Tally.Part;
import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.Long2ObjectOpenHashMap;
import java.util.BitSet;
import java.util.function.IntPredicate;

/**
 * Adds up, node by node, what the roles of a session were given: by grants, as owners, by powers.
 * Says nothing yet about what of it works. Cost: the grants of the roles.
 */
final class Gathering {
  private final Access access;
  private final Tree tree;
  private final boolean withSystem;
  private final boolean compact;
  private final Long2ObjectOpenHashMap<Part> partsMade = new Long2ObjectOpenHashMap<>();
  private final BitSet systemNodes;
  private final boolean anySystem;
  private final boolean anyGuarded;
  private Session collecting;
  private Tally sum;

  Gathering(Access access, boolean withSystem, boolean compact) {
    this.access = access;
    this.tree = access.tree();
    this.withSystem = withSystem;
    this.compact = compact;
    this.systemNodes = new BitSet();
    findSystemNodes();
    this.anySystem = !systemNodes.isEmpty();
    this.anyGuarded = tree.guarded().size() > 0;
  }

  /** Whether there are nodes of which the server keeps something from everybody. */
  boolean anyGuarded() {
    return anyGuarded;
  }

  /**
   * Adds up what a session was given.
   *
   * @param onlyNode the one node to look at, or -1 for all
   * @param into where it is added up; cleared first
   */
  void collect(Session session, int onlyNode, Tally into) {
    sum = into;
    sum.clear();
    collecting = session;
    if (onlyNode >= 0) {
      sum.add(onlyNode, session.given(onlyNode), session.grantable(onlyNode));
      if (!session.isSuperuser()) {
        addPartsAt(session, onlyNode);
      }
      return;
    }
    if (session.isSuperuser()) {
      for (int node = 0; node < tree.size(); node++) {
        long all = access.rules().privilegesOn(tree.kind(node)) & ~access.notByPower(node);
        add(node, all, all);
      }
      for (int i = 0; i < tree.sealed().size(); i++) {
        // what they were given counts for them too: it lets them in
        int node = tree.sealed().get(i);
        add(node, session.given(node), session.grantable(node));
      }
      return;
    }
    addPowers(session);
    for (int i = 0; i < session.roles().size(); i++) {
      int role = session.roles().getInt(i);
      addGrants(session, role);
      addOwned(role);
    }
  }

  /**
   * Adds up what a session that is no superuser's was given on some nodes themselves, without what
   * comes down to them.
   *
   * @param into where it is added up; cleared first
   */
  void collect(Session session, IntPredicate nodes, Tally into) {
    sum = into;
    sum.clear();
    collecting = session;
    Grants grants = access.grants();
    boolean ownsObjects = access.rules().ownership() == Ownership.OBJECT;
    for (int i = 0; i < session.roles().size(); i++) {
      int role = session.roles().getInt(i);
      for (int at = grants.byGrantee().from(role); at < grants.byGrantee().to(role); at++) {
        int row = grants.byGrantee().row(at);
        if (nodes.test(grants.node(row)) && session.counts(grants, row)) {
          addGrant(row);
        }
      }
      for (int at = tree.owned().from(role); ownsObjects && at < tree.owned().to(role); at++) {
        if (nodes.test(tree.owned().row(at))) {
          addOwnedObject(role, tree.owned().row(at));
        }
      }
    }
  }

  private void addPowers(Session session) {
    long[] opened = new long[NodeKind.values().length];
    boolean any = false;
    boolean grantOn = access.rules().has(HouseFact.POWERS_GRANT_ON);
    for (Power power : Power.values()) {
      for (NodeKind kind : NodeKind.values()) {
        if ((session.powers() & power.bit()) != 0) {
          opened[kind.ordinal()] |= access.rules().opened(power, kind);
          any |= opened[kind.ordinal()] != 0;
        }
      }
    }
    for (int node = 0; any && node < tree.size(); node++) {
      if (opened[tree.kind(node).ordinal()] != 0) {
        long bits = opened[tree.kind(node).ordinal()] & ~access.notByPower(node);
        add(node, bits, grantOn ? bits : 0);
      }
    }
  }

  private void addGrants(Session session, int role) {
    Grants grants = access.grants();
    Adjacency rows = grants.byGrantee();
    for (int place = rows.from(role); place < rows.to(role); place++) {
      int row = rows.row(place);
      Terms terms = grants.terms(row);
      int node = grants.node(row);
      if (session.isOver(terms) || session.isCompetition() && !session.counts(grants, row)) {
        continue;
      }
      addGrant(row);
      if (terms.covers() != 0 && !compact && grants.columns(row) == ColumnSets.WHOLE) {
        addInside(node, terms);
      }
    }
  }

  private void addGrant(int row) {
    Grants grants = access.grants();
    if (grants.columns(row) == ColumnSets.WHOLE) {
      Terms terms = grants.terms(row);
      add(grants.node(row), terms.privileges(), terms.grantable());
    } else {
      addPart(row);
    }
  }

  private void addInside(int container, Terms terms) {
    IntArrayList containers = IntArrayList.of(container);
    while (!containers.isEmpty()) {
      int at = containers.popInt();
      for (int i = tree.children().from(at); i < tree.children().to(at); i++) {
        int child = tree.children().row(i);
        long here = access.rules().privilegesOn(tree.kind(child));
        if ((terms.covers() & tree.kind(child).bit()) != 0
            && ((terms.privileges() | terms.grantable()) & here) != 0) {
          add(child, terms.privileges() & here, terms.grantable() & here);
        }
        containers.add(child);
      }
    }
  }

  private void addOwned(int role) {
    Ownership ownership = access.rules().ownership();
    Adjacency owned = tree.owned();
    for (int place = owned.from(role); place < owned.to(role); place++) {
      int node = owned.row(place);
      if (ownership == Ownership.OBJECT) {
        addOwnedObject(role, node);
      } else if (ownership == Ownership.SCHEMA && tree.kind(node) == NodeKind.SCHEMA) {
        addOwnedObject(role, node);
        for (int i = tree.children().from(node); i < tree.children().to(node); i++) {
          addOwnedObject(role, tree.children().row(i));
        }
      }
    }
  }

  private void addOwnedObject(int owner, int node) {
    long all = access.rules().privilegesOn(tree.kind(node));
    boolean grants = access.ownersGrant(owner);
    add(node, all & ~tree.withheld(node), grants ? all : 0);
  }

  private void addPartsAt(Session session, int node) {
    Grants grants = access.grants();
    for (int place = grants.byNode().from(node); place < grants.byNode().to(node); place++) {
      int row = grants.byNode().row(place);
      if (grants.columns(row) != ColumnSets.WHOLE && session.counts(grants, row)) {
        addPart(row);
      }
    }
  }

  private void add(int node, long privileges, long canGrant) {
    if (withSystem || !isSystem(node)) {
      long held = privileges & ~hidden(collecting, node);
      sum.add(node, held, canGrant);
    }
  }

  /** There are few different parts; each is made once. */
  private void addPart(int row) {
    Grants grants = access.grants();
    if (!withSystem && isSystem(grants.node(row))) {
      return;
    }
    long key = (long) grants.termsId(row) << 32 | grants.columns(row);
    Part part = partsMade.get(key);
    if (part == null) {
      BitSet columns = new BitSet();
      for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
        columns.set(ordinal);
      }
      Terms terms = grants.terms(row);
      part = new Part(terms.privileges(), terms.grantable(), columns);
      partsMade.put(key, part);
    }
    sum.addPart(grants.node(row), part);
  }

  /** What the server keeps from a session on that node whatever was granted. */
  long hidden(Session session, int node) {
    return !anyGuarded || session.isSuperuser() ? 0 : session.guarded(node);
  }

  boolean isSystem(int node) {
    return anySystem && systemNodes.get(node);
  }

  /** Cost: what belongs to the server itself. */
  private void findSystemNodes() {
    IntArrayList open = new IntArrayList(tree.system().toArray());
    while (!open.isEmpty()) {
      int node = open.popInt();
      systemNodes.set(node);
      for (int at = tree.children().from(node); at < tree.children().to(node); at++) {
        open.add(tree.children().row(at));
      }
    }
  }
}
