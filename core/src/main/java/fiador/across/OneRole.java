package fiador.across;

import fiador.effects.Path;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

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
    Set<Integer> whole = roles(tracer.trace(user, Privilege.SELECT, node, column, MOST_WAYS));
    if (!whole.isEmpty()) {
      return whole.iterator().next();
    }
    List<Set<Integer>> needed = new ArrayList<>();
    for (int at = 0; column < 0 && at < tree.columns(node); at++) {
      Trace one = tracer.trace(user, Privilege.SELECT, node, at, MOST_WAYS);
      if (one.state() != State.LIVE) {
        needed.add(roles(one));
      }
    }
    if (needed.isEmpty()) {
      return None.PRINCIPAL;
    }
    Set<Integer> all = needed.get(0);
    needed.forEach(all::retainAll);
    return all.isEmpty() ? None.PRINCIPAL : all.iterator().next();
  }

  /** The roles that open it; none where it is open anyway, or not at all. */
  private static Set<Integer> roles(Trace trace) {
    Set<Integer> found = new HashSet<>();
    for (Path path : trace.state() == State.ON_REQUEST ? trace.paths() : List.<Path>of()) {
      // where a role opens no more than a gate, the way itself is the user's own
      found.add(path.chain()[path.switched()]);
    }
    return found;
  }
}
