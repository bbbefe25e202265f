package fiador.effects;

import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import org.jspecify.annotations.Nullable;

/**
 * What gates keep from working, asked for many nodes of the same two sessions. For objects that is
 * a matter of their container, so it is looked up once for all that is in it.
 */
final class ObjectGates {
  private static final int OPEN = 1;
  private static final int SHUT = 2;

  private final Tree tree;
  private final Gates gates;
  private final Int2IntOpenHashMap known = new Int2IntOpenHashMap();
  private @Nullable Session login;
  private @Nullable Session acting;

  ObjectGates(Access access, Gates gates) {
    this.tree = access.tree();
    this.gates = gates;
  }

  /** As {@link Gates#blocked}; what was looked up for other sessions is forgotten. */
  long blocked(int node, long wanted, Session login, Session acting) {
    if (!tree.kind(node).isObject()) {
      return gates.blocked(node, wanted, login, acting);
    }
    if (this.login != login || this.acting != acting) {
      known.clear();
      this.login = login;
      this.acting = acting;
    }
    int container = tree.parent(node);
    int state = known.get(container);
    if (state == 0) {
      boolean open = gates.blocked(node, PrivilegeSet.EVERY, login, acting) == 0;
      state = open ? OPEN : SHUT;
      known.put(container, state);
    }
    return state == SHUT ? wanted : 0;
  }
}
