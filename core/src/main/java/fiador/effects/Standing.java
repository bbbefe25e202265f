package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;

/**
 * As what each principal takes part in a session on a server where rows compete: as the account, as
 * its role, as PUBLIC; and that not on every level of the tree. Of the rows about one node the best
 * of the account, the best of the role and the best of PUBLIC count.
 */
final class Standing {
  private static final int SLOTS = 3;
  private static final int ACCOUNT = 1;
  private static final int ROLE = 2;
  private static final int EVERYBODY = 4;
  private static final int SERVER = 0;
  private static final int SCHEMA = SLOTS;
  private static final int OBJECT = 2 * SLOTS;
  private static final int SLOT_MASK = (1 << SLOTS) - 1;

  private final Int2IntOpenHashMap partsOf = new Int2IntOpenHashMap();

  /** Nobody takes part yet. */
  Standing() {}

  /**
   * The account of a session.
   *
   * @param self whose grants on the whole server count
   * @param user who logged in
   */
  Standing account(Access access, int self, int user) {
    add(self, ACCOUNT << SERVER);
    add(user, ACCOUNT << SCHEMA | ACCOUNT << OBJECT);
    for (int other : access.accounts().sameName(user)) {
      add(other, ACCOUNT << SCHEMA | ACCOUNT << OBJECT);
    }
    for (int other : access.accounts().nameless(user)) {
      add(other, ACCOUNT << SCHEMA);
    }
    return this;
  }

  /** The account of what acts as a role without anybody having logged in: the nameless ones. */
  Standing nobody(Access access) {
    for (int other : access.accounts().nameless()) {
      add(other, ACCOUNT << SCHEMA | ACCOUNT << OBJECT);
    }
    return this;
  }

  /** The role that is on, with all it holds. */
  Standing role(Access access, IntArrayList closure) {
    return addAll(access, closure, ROLE);
  }

  /** PUBLIC, with all it holds. */
  Standing everybody(Access access, IntArrayList closure) {
    return access.accounts().publicUsed() ? addAll(access, closure, EVERYBODY) : this;
  }

  private Standing addAll(Access access, IntArrayList closure, int slot) {
    for (int i = 0; i < closure.size(); i++) {
      add(closure.getInt(i), slot << SERVER | slot << SCHEMA | slot << OBJECT);
    }
    for (int other : access.accounts().nameless()) {
      add(other, slot << SCHEMA);
    }
    return this;
  }

  private void add(int principal, int parts) {
    partsOf.put(principal, partsOf.get(principal) | parts);
  }

  /** All that take part, PUBLIC last. */
  IntArrayList all() {
    IntArrayList all = new IntArrayList();
    partsOf.keySet().forEach((int id) -> all.add(id));
    all.rem(Principals.PUBLIC);
    all.sort(null);
    all.add(Principals.PUBLIC);
    return all;
  }

  private int slots(Access access, Grants rows, int row) {
    Tree tree = access.tree();
    NodeKind kind = tree.kind(rows.node(row));
    int level = kind == NodeKind.SERVER ? SERVER : kind == NodeKind.SCHEMA ? SCHEMA : OBJECT;
    return partsOf.get(rows.grantee(row)) >> level & SLOT_MASK;
  }

  /** Whether in one of its slots no other row about the same node comes before it. */
  boolean wins(Access access, Grants rows, int row) {
    int left = slots(access, rows, row);
    if (access.tree().kind(rows.node(row)) == NodeKind.SERVER) {
      return left != 0;
    }
    long rank = access.accounts().rank(rows, row);
    var sameNode = rows.byNode();
    int node = rows.node(row);
    for (int at = sameNode.from(node); left != 0 && at < sameNode.to(node); at++) {
      int other = sameNode.row(at);
      int shared = other == row ? 0 : left & slots(access, rows, other);
      if (shared != 0 && access.accounts().rank(rows, other) < rank) {
        left &= ~shared;
      }
    }
    return left != 0;
  }
}
