package fiador.repairs;

import fiador.changes.outcome.Turned;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Use;
import fiador.findings.check.Facts;
import fiador.grants.Access;
import fiador.grants.rules.Gate;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What was used and has to go on working: the uses of what their users hold, and the gates before
 * them. Cost: the uses, and the holdings of their users on what they used.
 */
final class Needs {
  private final Facts facts;
  private final Map<Use, State> heldAs = new LinkedHashMap<>();

  /** The best state on the whole, which is more than on each column that there is today. */
  private final Map<Use, State> wholly = new HashMap<>();

  private final int notHeld;

  Needs(Facts facts) {
    this.facts = facts;
    Set<Use> all = new LinkedHashSet<>();
    facts.evidence.uses().keySet().stream()
        .sorted(
            Comparator.comparingInt(Use::user)
                .thenComparingInt(Use::node)
                .thenComparing(Use::privilege)
                .thenComparingInt(Use::column))
        .forEach(all::add);
    for (Use use : List.copyOf(all)) {
      for (Gate gate : facts.access.rules().gates()) {
        int container = facts.tree.enclosing(use.node(), gate.container());
        if (container >= 0 && container != use.node() && facts.access.stands(gate, container)) {
          all.add(new Use(use.user(), gate.privilege(), container, Evidence.ALL));
        }
      }
    }
    Map<Use, State> held = held(facts.access, all, wholly);
    for (Use use : all) {
      if (held.get(use) != null) {
        heldAs.put(use, held.get(use));
      }
    }
    notHeld = all.size() - heldAs.size();
  }

  /** The best state in which each use works there; those that do not work are left out. */
  private Map<Use, State> held(Access access, Set<Use> all, Map<Use, State> onWhole) {
    Holdings holdings = new Holdings(access, facts.clock, true);
    Map<List<Integer>, List<Holding>> known = new HashMap<>();
    Map<Use, State> found = new HashMap<>();
    for (Use use : all) {
      List<Holding> theirs =
          known.computeIfAbsent(
              List.of(use.user(), use.node()), fresh -> holdings.at(use.user(), use.node()));
      for (Holding row : theirs) {
        boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
        boolean there =
            row.columns() == null
                || use.column() == Evidence.ANY
                || use.column() >= 0 && row.columns().get(use.column())
                || use.column() == Evidence.ALL
                    && row.columns().cardinality() == facts.tree.columns(use.node());
        if (row.privilege() == use.privilege() && works && there) {
          if (row.columns() == null) {
            onWhole.merge(use, row.state(), Needs::better);
          }
          found.merge(use, row.state(), Needs::better);
        }
      }
    }
    return found;
  }

  private static State better(State one, State other) {
    return one.compareTo(other) < 0 ? one : other;
  }

  private static boolean isWorse(State now, State before) {
    return now == null || now.compareTo(before) > 0;
  }

  Set<Use> uses() {
    return heldAs.keySet();
  }

  int count() {
    return heldAs.size();
  }

  int notHeld() {
    return notHeld;
  }

  /** Whether it works right after login now, so that it has to go on doing so. */
  boolean isLive(Use use) {
    return heldAs.get(use) == State.LIVE;
  }

  /**
   * Whose uses work worse there, or not at all.
   *
   * @param turned where that can be
   */
  Set<Integer> losers(Access after, Turned turned) {
    Map<Use, State> onWhole = new HashMap<>();
    Map<Use, State> inDoubt = new LinkedHashMap<>(heldAs);
    inDoubt
        .keySet()
        .removeIf(
            use ->
                !turned.principals().contains(use.user()) && !turned.nodes().contains(use.node()));
    Map<Use, State> now = held(after, inDoubt.keySet(), onWhole);
    Set<Integer> users = new HashSet<>();
    for (Map.Entry<Use, State> use : inDoubt.entrySet()) {
      State state = now.get(use.getKey());
      boolean narrowed =
          use.getKey().column() == Evidence.ALL
              && wholly.containsKey(use.getKey())
              && isWorse(onWhole.get(use.getKey()), wholly.get(use.getKey()));
      if (narrowed || isWorse(state, use.getValue())) {
        users.add(use.getKey().user());
      }
    }
    return users;
  }
}
