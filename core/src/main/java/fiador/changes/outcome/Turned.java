package fiador.changes.outcome;

import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Where steps can make a difference to anybody: the principals whose roles are others than before,
 * or who are below one that was given or refused a gate, and the nodes on which somebody's own
 * grants come to something else, with the views above them. Where grants only add up, what comes to
 * the same by other ways is left out, so that taking away what is held twice turns nothing. Cost:
 * the role closures of all below those whose memberships changed, and the grants on the nodes that
 * changed.
 */
public final class Turned {
  private final Access before;
  private final Access after;
  private final Tree tree;
  private final Tilt most;
  private final IntOpenHashSet principals = new IntOpenHashSet();
  private final IntOpenHashSet nodes = new IntOpenHashSet();

  /** Whose own grants on a node come to something else, where that is all that happened to it. */
  private final Int2ObjectOpenHashMap<IntOpenHashSet> touchedOn = new Int2ObjectOpenHashMap<>();

  private Turned(Access before, Outcome.Result outcome, Tilt most) {
    this.before = before;
    this.after = outcome.after();
    this.tree = before.tree();
    this.most = most;
    Comparison comparison = addsUp() ? new Comparison(before, after) : null;
    addPrincipals(outcome, comparison);
    addNodes(outcome, comparison);
    addViewsOf(principals);
    addViewsAbove();
  }

  /** Where there can be any difference. */
  public static Turned of(Access before, Outcome.Result outcome) {
    return new Turned(before, outcome, Tilt.SAME);
  }

  /** Where somebody can have gained something. */
  public static Turned forMore(Access before, Outcome.Result outcome) {
    return new Turned(before, outcome, Tilt.LESS);
  }

  /** The principals all of whose holdings may be others. */
  public IntSet principals() {
    return principals;
  }

  /** The nodes on which anybody's holdings may be others. */
  public IntSet nodes() {
    return nodes;
  }

  /** Whose holdings on one of the nodes may be others; null where they may be anybody's. */
  public IntSet users(int node) {
    IntOpenHashSet touched = touchedOn.get(node);
    return touched == null || touched.contains(Principals.PUBLIC) ? null : below(touched);
  }

  /** Denials, better rows and ends can give by taking away; there nothing is concluded. */
  private boolean addsUp() {
    return !before.rules().has(HouseFact.DENIALS)
        && !before.rules().has(HouseFact.ENFORCES_TIME)
        && !before.rules().has(HouseFact.ONE_ROW_COUNTS);
  }

  private void addPrincipals(Outcome.Result outcome, Comparison comparison) {
    IntOpenHashSet below = below(outcome.members());
    for (int principal : below.toIntArray()) {
      if (comparison == null || comparison.ofRoles(principal).compareTo(most) > 0) {
        principals.add(principal);
      }
    }
  }

  private void addNodes(Outcome.Result outcome, Comparison comparison) {
    IntOpenHashSet gateKeepers = new IntOpenHashSet();
    for (int node : outcome.nodes().toIntArray()) {
      IntOpenHashSet touched = new IntOpenHashSet();
      Tilt tilt = Tilt.OTHER;
      boolean anybodys =
          comparison == null || before.tree().owner(node) != after.tree().owner(node);
      if (anybodys) {
        touched.addAll(outcome.grantees());
      } else {
        tilt = comparison.onNode(node, outcome.grantees(), most, touched);
      }
      if (tilt.compareTo(most) > 0) {
        nodes.add(node);
        if (!tree.kind(node).isObject()) {
          gateKeepers.addAll(touched);
        } else if (!anybodys) {
          touchedOn.put(node, touched);
        }
      }
    }
    principals.addAll(below(gateKeepers));
  }

  /** The principals that reach one of these over any memberships, before or after. */
  private IntOpenHashSet below(IntOpenHashSet starts) {
    IntOpenHashSet reached = new IntOpenHashSet();
    for (Access access : List.of(before, after)) {
      Memberships memberships = access.memberships();
      IntArrayList open = new IntArrayList(starts);
      IntOpenHashSet seen = new IntOpenHashSet(starts);
      while (!open.isEmpty()) {
        int at = open.popInt();
        if (at == Principals.PUBLIC) {
          for (int id = 1; id < after.principals().size(); id++) {
            if (seen.add(id)) {
              open.add(id);
            }
          }
          continue;
        }
        if (at < access.principals().size()) {
          for (int edge : memberships.membersOf().run(at)) {
            if (seen.add(memberships.member(edge))) {
              open.add(memberships.member(edge));
            }
          }
          for (int other : others(access, at)) {
            if (seen.add(other)) {
              open.add(other);
            }
          }
        }
      }
      reached.addAll(seen);
    }
    return reached;
  }

  private static int[] others(Access access, int principal) {
    return access.accounts() == null || principal >= access.principals().size()
        ? new int[0]
        : access.accounts().countingFor(principal);
  }

  /** The views and routines whose owner may have got another reach. */
  private void addViewsOf(IntOpenHashSet owners) {
    if (!before.rules().looksUnderViews() || owners.isEmpty()) {
      return;
    }
    for (int node = 0; node < tree.size(); node++) {
      NodeKind kind = tree.kind(node);
      if (kind == NodeKind.VIEW || kind == NodeKind.ROUTINE) {
        int schema = tree.enclosing(node, NodeKind.SCHEMA);
        int owner = tree.owner(node) >= 0 || schema < 0 ? tree.owner(node) : tree.owner(schema);
        if (owners.contains(owner)) {
          nodes.add(node);
          touchedOn.remove(node);
        }
      }
    }
  }

  /** The views that read one of the nodes, or views on those. */
  private void addViewsAbove() {
    if (!before.rules().looksUnderViews() || nodes.isEmpty()) {
      return;
    }
    Map<Integer, IntArrayList> above = new LinkedHashMap<>();
    for (int view = 0; view < tree.size(); view++) {
      var reads = before.reads();
      for (int at = reads.byView().from(view); at < reads.byView().to(view); at++) {
        above
            .computeIfAbsent(reads.under().get(reads.byView().row(at)), fresh -> new IntArrayList())
            .add(view);
      }
    }
    IntArrayList open = new IntArrayList(nodes);
    while (!open.isEmpty()) {
      IntArrayList views = above.get(open.popInt());
      for (int i = 0; views != null && i < views.size(); i++) {
        touchedOn.remove(views.getInt(i));
        if (nodes.add(views.getInt(i))) {
          open.add(views.getInt(i));
        }
      }
    }
  }
}
