package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.HouseRules.Ownership;
import fiador.grants.Terms;
import java.util.Arrays;

/**
 * Counts the holdings of users who have one session only and hold no column with the right to grant
 * it on: then every privilege on every node is one row, whatever its state, so it is enough to
 * count what is new while reading the grants. Four bytes a node instead of sixteen keep most of
 * them in the cache, which is what the counting costs. Everybody else is left to {@link Holdings}.
 */
final class QuickCount {
  /** Says that the user has to be counted the long way. */
  static final long NOT_SO_EASY = -1;

  private static final int BITS = 16;
  private static final int MASK = (1 << BITS) - 1;

  private final Access access;
  private final Tree tree;
  private final Grants grants;
  private final Gathering gathering;
  private final boolean withSystem;
  private final int[] bitsOf;
  private final boolean[] hard;
  private final boolean possible;
  private int[] seen;
  private int round;
  private long rows;

  QuickCount(Access access, Gathering gathering, boolean withSystem, boolean compact) {
    this.access = access;
    this.tree = access.tree();
    this.grants = access.grants();
    this.gathering = gathering;
    this.withSystem = withSystem;
    this.bitsOf = new int[grants.differentTerms()];
    this.hard = new boolean[bitsOf.length];
    boolean fits = true;
    for (NodeKind kind : NodeKind.values()) {
      fits &= access.rules().privilegesOn(kind) <= MASK;
    }
    for (int id = 0; id < bitsOf.length; id++) {
      Terms terms = grants.termsAt(id);
      fits &= terms.privileges() <= MASK && (terms.covers() == 0 || compact);
      bitsOf[id] = (int) terms.privileges();
      hard[id] = terms.grantable() != 0;
    }
    this.possible =
        fits
            && !access.rules().denials()
            && !access.rules().enforcesTime()
            && !(withSystem && gathering.anyGuarded());
  }

  /** How many rows the only session of a user amounts to, or {@link #NOT_SO_EASY}. */
  long count(Session login) {
    if (!possible || hasOpeningPower(login)) {
      return NOT_SO_EASY;
    }
    begin();
    for (int i = 0; i < login.roles().size(); i++) {
      int role = login.roles().getInt(i);
      if (!addGrants(role)) {
        return NOT_SO_EASY;
      }
      addOwned(role);
    }
    return rows;
  }

  private boolean hasOpeningPower(Session session) {
    if (session.isSuperuser()) {
      return true;
    }
    for (Power power : access.rules().powers().keySet()) {
      if ((session.powers() & power.bit()) != 0) {
        return true;
      }
    }
    return false;
  }

  private void begin() {
    rows = 0;
    if (seen == null) {
      seen = new int[tree.size()];
    }
    if (++round > MASK) {
      Arrays.fill(seen, 0);
      round = 1;
    }
  }

  private boolean addGrants(int role) {
    Adjacency rows = grants.byGrantee();
    int end = rows.to(role);
    if (!rows.isIdentity()) {
      for (int place = rows.from(role); place < end; place++) {
        if (!addGrant(rows.row(place))) {
          return false;
        }
      }
      return true;
    }
    for (int row = rows.from(role); row < end; row++) {
      if (!addGrant(row)) {
        return false;
      }
    }
    return true;
  }

  private boolean addGrant(int row) {
    int terms = grants.termsId(row);
    if (hard[terms] && grants.columns(row) != ColumnSets.WHOLE) {
      return false;
    }
    add(grants.node(row), bitsOf[terms]);
    return true;
  }

  private void add(int node, int bits) {
    int word = seen[node];
    if (word >>> BITS != round) {
      word = round << BITS;
    }
    int fresh = bits & ~word;
    if (fresh != 0) {
      seen[node] = word | bits;
      if (withSystem || !gathering.isSystem(node)) {
        rows += Integer.bitCount(fresh);
      }
    }
  }

  private void addOwned(int role) {
    Ownership ownership = access.rules().ownership();
    for (int at = tree.owned().from(role); at < tree.owned().to(role); at++) {
      int node = tree.owned().row(at);
      if (ownership == Ownership.OBJECT) {
        long all = access.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node);
        add(node, (int) all);
      } else if (ownership == Ownership.SCHEMA && tree.kind(node) == NodeKind.SCHEMA) {
        for (int i = tree.children().from(node); i < tree.children().to(node); i++) {
          int child = tree.children().row(i);
          add(child, (int) access.rules().privilegesOn(tree.kind(child)));
        }
      }
    }
  }
}
