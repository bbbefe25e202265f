package fiador.effects;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.longs.Long2LongOpenHashMap;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * A set of roles that are on together, and what it amounts to on single nodes. PUBLIC is always in
 * the set. Cost of a question: the grants on the node and its containers.
 */
final class Session {
  /** What looking one role up costs, in rows that are looked at. */
  private static final int FEW = 8;

  private static final long UNKNOWN = -1;

  private final Access access;
  private final long now;
  private final int self;
  private final int user;
  private final IntArrayList roles;
  private final IntOpenHashSet members;
  private final int powers;
  private final boolean superuser;
  // asked for each grant, so looked up once
  private final boolean enforcesTime;
  private final boolean denials;
  private final Standing standing;

  /** What a container gives to all of a kind in it: asked for with each of them. */
  private final Long2LongOpenHashMap comingDown = new Long2LongOpenHashMap();

  /**
   * @param self who acts
   * @param reached the roles that are on, {@code self} among them
   */
  Session(Access access, long epochSecond, int self, IntArrayList reached) {
    this(access, epochSecond, self, self, reached, null);
  }

  /**
   * As the other.
   *
   * @param user who logged in; -1 for nobody
   * @param standing as what each of them is there, on servers where rows compete; else null
   */
  Session(
      Access access,
      long epochSecond,
      int self,
      int user,
      IntArrayList reached,
      Standing standing) {
    this.user = user;
    this.access = access;
    this.now = epochSecond;
    this.self = self;
    this.members = new IntOpenHashSet(reached.size());
    this.roles = new IntArrayList(reached.size() + 1);
    for (int i = 0; i < reached.size(); i++) {
      if (members.add(reached.getInt(i))) {
        roles.add(reached.getInt(i));
      }
    }
    this.standing = standing;
    comingDown.defaultReturnValue(UNKNOWN);
    this.enforcesTime = access.rules().has(HouseFact.ENFORCES_TIME);
    this.denials = access.rules().has(HouseFact.DENIALS);
    if (members.add(Principals.PUBLIC)) {
      roles.add(Principals.PUBLIC);
    }
    int all = 0;
    for (int i = 0; i < roles.size(); i++) {
      all |= access.principals().powers(roles.getInt(i));
    }
    this.powers = all;
    int own = access.principals().powers(self);
    // who keeps their own rights after switching keeps their power too
    own |= user >= 0 && members.contains(user) ? access.principals().powers(user) : 0;
    int deciding = access.rules().has(HouseFact.SUPERUSER_INHERITED) ? all : own;
    this.superuser = (deciding & Power.SUPERUSER.bit()) != 0;
  }

  /** Whether of several rows about one node only the best ones count. */
  boolean isCompetition() {
    return standing != null;
  }

  /** Whether a row counts: given to somebody who is on, in time, and beaten by no other. */
  boolean counts(Grants rows, int row) {
    return members.contains(rows.grantee(row))
        && !isOver(rows.terms(row))
        && (standing == null || standing.wins(access, rows, row));
  }

  int self() {
    return self;
  }

  /** Who logged in, whatever role they have switched to; -1 for nobody. */
  int user() {
    return user;
  }

  IntArrayList roles() {
    return roles;
  }

  boolean contains(int principal) {
    return members.contains(principal);
  }

  /** The powers of all roles together. */
  int powers() {
    return powers;
  }

  boolean isSuperuser() {
    return superuser;
  }

  /** Whether a grant's time is over on a server that looks at it. */
  boolean isOver(Terms terms) {
    return enforcesTime && terms.isOver(now);
  }

  /** The privileges held on the whole of the node, gates not looked at. */
  long whole(int node) {
    return given(node) & ~deniedWhole(node);
  }

  /** As {@link #whole}, denials not looked at either. */
  long given(int node) {
    Tree tree = access.tree();
    NodeKind kind = tree.kind(node);
    long byPower = superuser ? access.rules().privilegesOn(kind) : opened(kind);
    long notByPower = access.notByPower(node);
    if (superuser && notByPower == 0) {
      return byPower;
    }
    long held = owned(node, true) | byPower & ~notByPower;
    for (int at = node; at >= 0; at = tree.parent(at)) {
      held |= granted(access.grants(), at, node, false);
    }
    return superuser ? held : held & ~guarded(node);
  }

  /** What the powers of the roles open on a kind of thing. */
  long opened(NodeKind kind) {
    long opened = 0;
    if (powers == 0) {
      return 0;
    }
    for (Power power : Power.values()) {
      if ((powers & power.bit()) != 0) {
        opened |= access.rules().opened(power, kind);
      }
    }
    return opened;
  }

  /** The privileges that may be granted on for the whole of the node, whether held or not. */
  long grantable(int node) {
    Tree tree = access.tree();
    long notByPower = access.notByPower(node);
    long byPower = superuser ? access.rules().privilegesOn(tree.kind(node)) : 0;
    if (superuser && notByPower == 0) {
      return byPower;
    }
    long held = owned(node, false) | byPower & ~notByPower;
    if (access.rules().has(HouseFact.POWERS_GRANT_ON)) {
      held |= opened(tree.kind(node)) & ~notByPower;
    }
    for (int at = node; at >= 0; at = tree.parent(at)) {
      held |= granted(access.grants(), at, node, true);
    }
    return held;
  }

  /** Whether that privilege is held on the node: on these columns, or on any part of it. */
  boolean covers(int node, long privilege, int columnSet) {
    BitSet held;
    if ((whole(node) & privilege) != 0) {
      BitSet denied = deniedColumns(node, privilege);
      if (denied.isEmpty()) {
        return true;
      }
      held = new BitSet();
      held.set(0, access.tree().columns(node));
      held.andNot(denied);
    } else if ((deniedWhole(node) & privilege) != 0) {
      // a denial of the whole beats grants on columns too
      return false;
    } else {
      held = columns(node, privilege);
    }
    if (columnSet == ColumnSets.WHOLE) {
      return held.stream().anyMatch(column -> !isSystemColumn(node, column));
    }
    for (int ordinal : access.columnSets().ordinals(columnSet)) {
      if (!held.get(ordinal)) {
        return false;
      }
    }
    return true;
  }

  /** A right on a column that the server adds to every table is no right on any part of it. */
  private boolean isSystemColumn(int node, int column) {
    return access.rules().systemColumns().contains(access.tree().column(node, column));
  }

  /** The columns on which the privilege is held by column grants. */
  BitSet columns(int node, long privilege) {
    BitSet held = new BitSet();
    addColumns(access.grants(), node, privilege, held, true);
    if (!held.isEmpty() && denials) {
      addColumns(access.denials(), node, privilege, held, false);
    }
    return held;
  }

  private void addColumns(Grants rows, int node, long privilege, BitSet held, boolean value) {
    for (int place = rows.byNode().from(node); place < rows.byNode().to(node); place++) {
      if (!members.contains(rows.granteeAt(place))) {
        continue;
      }
      int row = rows.byNode().row(place);
      Terms terms = rows.terms(row);
      if (rows.columns(row) != ColumnSets.WHOLE
          && (terms.privileges() & privilege) != 0
          && counts(rows, row)) {
        for (int ordinal : access.columnSets().ordinals(rows.columns(row))) {
          held.set(ordinal, value);
        }
      }
    }
  }

  /** The columns that denials take away, whatever is held on the whole. */
  BitSet deniedColumns(int node, long privilege) {
    BitSet denied = new BitSet();
    if (denials) {
      addColumns(access.denials(), node, privilege, denied, true);
    }
    return denied;
  }

  private long owned(int node, boolean less) {
    Ownership ownership = access.rules().ownership();
    Tree tree = access.tree();
    if (ownership == Ownership.NONE) {
      return 0;
    }
    boolean bySchema = ownership == Ownership.SCHEMA;
    int home = bySchema ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    if (home < 0 || !members.contains(tree.owner(home))) {
      return 0;
    }
    if (!less && !access.ownersGrant(tree.owner(home))) {
      return 0;
    }
    long all = access.rules().privilegesOn(tree.kind(node));
    return less ? all & ~tree.withheld(node) : all;
  }

  private long granted(Grants rows, int at, int node, boolean grantOption) {
    if (at == node || rows != access.grants()) {
      return find(rows, at, node, grantOption);
    }
    long key = (long) at << 32 | access.tree().kind(node).ordinal() << 1 | (grantOption ? 1 : 0);
    long known = comingDown.get(key);
    if (known == UNKNOWN) {
      known = find(rows, at, node, grantOption);
      comingDown.put(key, known);
    }
    return known;
  }

  private long find(Grants rows, int at, int node, boolean grantOption) {
    int wantedKind = at == node ? 0 : access.tree().kind(node).bit();
    long here =
        at == node ? PrivilegeSet.EVERY : access.rules().privilegesOn(access.tree().kind(node));
    long held = 0;
    if (isSoonerFoundByRole(rows, at)) {
      for (int i = 0; i < roles.size(); i++) {
        int end = rows.byGrantee().to(roles.getInt(i));
        int row = rows.firstOn(roles.getInt(i), at);
        for (; row < end && rows.node(row) == at; row++) {
          held |= given(rows, row, wantedKind, grantOption);
        }
      }
      return here & held;
    }
    for (int place = rows.byNode().from(at); place < rows.byNode().to(at); place++) {
      if (members.contains(rows.granteeAt(place))) {
        held |= given(rows, rows.byNode().row(place), wantedKind, grantOption);
      }
    }
    return here & held;
  }

  private long given(Grants rows, int row, int wantedKind, boolean grantOption) {
    if (rows.columns(row) != ColumnSets.WHOLE) {
      return 0;
    }
    Terms terms = rows.terms(row);
    boolean reaches = (terms.covers() & wantedKind) == wantedKind && counts(rows, row);
    return !reaches ? 0 : grantOption ? terms.grantable() : terms.privileges();
  }

  /** A container may have been given to thousands, of whom few are on. */
  private boolean isSoonerFoundByRole(Grants rows, int node) {
    int given = rows.byNode().to(node) - rows.byNode().from(node);
    return given > FEW * roles.size() && rows.isOrdered();
  }

  /** What denials take away on the whole node. */
  long deniedWhole(int node) {
    long denied = 0;
    if (denials) {
      for (int at = node; at >= 0; at = access.tree().parent(at)) {
        denied |= granted(access.denials(), at, node, false);
      }
    }
    return denied;
  }

  /**
   * The denials of a privilege that concern a node.
   *
   * @param columns denials on other columns alone are none of it; null for the whole node
   */
  List<Integer> denials(int node, long privilege, BitSet columns) {
    Grants rows = access.denials();
    List<Integer> found = new ArrayList<>();
    for (int at = node; at >= 0; at = access.tree().parent(at)) {
      int wantedKind = at == node ? 0 : access.tree().kind(node).bit();
      for (int row : rows.byNode().run(at)) {
        Terms terms = rows.terms(row);
        boolean reaches = (terms.covers() & wantedKind) == wantedKind;
        boolean concerns = columns == null || isOnAny(rows.columns(row), columns);
        if ((terms.privileges() & privilege) != 0 && reaches && concerns && counts(rows, row)) {
          found.add(row);
        }
      }
    }
    return found;
  }

  /** As the other, of one column, or -1 for the whole node. */
  List<Integer> denials(int node, long privilege, int column) {
    BitSet only = new BitSet();
    only.set(Math.max(column, 0));
    return denials(node, privilege, column < 0 ? null : only);
  }

  private boolean isOnAny(int columnSet, BitSet columns) {
    if (columnSet == ColumnSets.WHOLE) {
      return true;
    }
    for (int ordinal : access.columnSets().ordinals(columnSet)) {
      if (columns.get(ordinal)) {
        return true;
      }
    }
    return false;
  }

  /** What the server keeps from everybody but superusers on that node. */
  long guarded(int node) {
    return access.tree().is(node, NodeFact.GUARDED) ? access.rules().guarded() : 0;
  }
}
