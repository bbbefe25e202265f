package fiador.across;

import fiador.effects.Path;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Finds the one role that somebody has to switch to before they can read something. */
final class OneRole {
  private static final int MOST_WAYS = 100;

  private final Tracer tracer;
  private final Tree tree;

  OneRole(Tracer tracer, Tree tree) {
    this.tracer = tracer;
    this.tree = tree;
  }

  /**
   * One that opens all that is asked for, also where it opens some columns and others are open
   * anyway. Cost: a trace for each column.
   *
   * @param column an ordinal, or -1 for all
   * @return -1 for none
   */
  int thatReads(int user, int node, int column) {
    Set<Integer> whole = roles(user, node, column);
    if (whole != null && !whole.isEmpty()) {
      return whole.iterator().next();
    }
    int columns = column < 0 ? tree.columns(node) : 0;
    Set<Integer> left = null;
    for (int at = 0; at < columns; at++) {
      Set<Integer> some = roles(user, node, at);
      if (some != null && left == null) {
        left = some;
      } else if (some != null) {
        left.retainAll(some);
      }
    }
    return left == null || left.isEmpty() ? None.PRINCIPAL : left.iterator().next();
  }

  /** The roles that open it; null where it is open anyway. */
  private @Nullable Set<Integer> roles(int user, int node, int column) {
    Trace trace = tracer.trace(user, Privilege.SELECT, node, column, MOST_WAYS);
    if (trace.state() == State.LIVE) {
      return null;
    }
    Set<Integer> found = new HashSet<>();
    for (Path path : trace.state() == State.ON_REQUEST ? trace.paths() : List.<Path>of()) {
      // where a role opens no more than a gate, the way itself is the user's own
      found.add(path.chain()[path.switched()]);
    }
    return found;
  }
}
