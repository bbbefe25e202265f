package fiador.changes;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Memberships;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a change does to people: which holdings come, go, or change, user by user.
 *
 * <p>Only where a difference can be is looked: all holdings of the users whose memberships changed,
 * and all holders of the nodes whose grants changed, of what lies in those that are gates or
 * containers, and of the views above them. Cost: those holdings and holders, twice.
 */
public final class PeopleEffects {
  private final Access before;
  private final Access after;
  private final Clock clock;
  private final Tree tree;
  private final Map<Key, Change> changes = new LinkedHashMap<>();

  private record Key(int user, Privilege privilege, int node, BitSet columns) {}

  /**
   * A holding that is not what it was. A user, node and columns mean the same before and after; a
   * user who is new is known only after.
   *
   * @param was its state before, or null where there was none
   * @param is its state after, or null where there is none any more
   * @param couldGrant whether it could be granted on
   * @param canGrant whether it can be granted on now
   */
  public record Change(
      int user,
      Privilege privilege,
      int node,
      BitSet columns,
      State was,
      State is,
      boolean couldGrant,
      boolean canGrant) {
    private static boolean works(State state) {
      return state != null && state.works();
    }

    /** Whether something works now that did not. */
    public boolean isGain() {
      return works(is) && !works(was);
    }

    /** Whether something worked that does no longer. */
    public boolean isLoss() {
      return works(was) && !works(is);
    }
  }

  private PeopleEffects(Access before, Access after, Clock clock) {
    this.before = before;
    this.after = after;
    this.clock = clock;
    this.tree = before.tree();
  }

  /** The changes, by user, node and privilege. */
  public static List<Change> of(Access before, Outcome.Result outcome, Clock clock) {
    return new PeopleEffects(before, outcome.after(), clock).find(outcome);
  }

  private List<Change> find(Outcome.Result outcome) {
    IntOpenHashSet users = below(outcome.members());
    IntOpenHashSet nodes = new IntOpenHashSet();
    boolean everywhere = false;
    for (int node : outcome.nodes().toIntArray()) {
      nodes.add(node);
      everywhere |= !tree.kind(node).isObject();
    }
    if (everywhere) {
      users.addAll(below(outcome.grantees()));
    }
    addViewsOf(users, nodes);
    addViewsAbove(nodes);
    Holdings old = new Holdings(before, clock, false);
    Holdings fresh = new Holdings(after, clock, false);
    for (int user : users.toIntArray()) {
      if (before.principals().size() > user && before.principals().isUser(user)) {
        old.of(user).forEach(row -> add(row, true));
      }
      if (after.principals().isUser(user)) {
        fresh.of(user).forEach(row -> add(row, false));
      }
    }
    Holders oldHolders = new Holders(before, clock);
    Holders freshHolders = new Holders(after, clock);
    for (int node : nodes.toIntArray()) {
      if (!tree.isSystem(node)) {
        addDifferent(oldHolders.of(node), freshHolders.of(node), users);
      }
    }
    List<Change> found = new ArrayList<>();
    changes
        .values()
        .forEach(
            each -> {
              Change change = withWhole(each);
              if (change.was() != change.is() || change.couldGrant() != change.canGrant()) {
                found.add(change);
              }
            });
    found.sort(
        Comparator.comparingInt(Change::user)
            .thenComparingInt(Change::node)
            .thenComparing(Change::privilege));
    return found;
  }

  /** What is held on a column is also what is held on the whole. */
  private Change withWhole(Change change) {
    Change whole =
        change.columns() == null
            ? null
            : changes.get(new Key(change.user(), change.privilege(), change.node(), null));
    return whole == null
        ? change
        : new Change(
            change.user(),
            change.privilege(),
            change.node(),
            change.columns(),
            whole.was() == null ? change.was() : better(change.was(), whole.was()),
            whole.is() == null ? change.is() : better(change.is(), whole.is()),
            change.couldGrant() | whole.couldGrant(),
            change.canGrant() | whole.canGrant());
  }

  /** Most people hold on a node what they held before; only the others are looked at closely. */
  private void addDifferent(List<Holding> was, List<Holding> is, IntOpenHashSet done) {
    int old = 0;
    int fresh = 0;
    // both lists come by user
    while (old < was.size() || fresh < is.size()) {
      int user =
          Math.min(
              old < was.size() ? was.get(old).user() : Integer.MAX_VALUE,
              fresh < is.size() ? is.get(fresh).user() : Integer.MAX_VALUE);
      int oldEnd = old;
      while (oldEnd < was.size() && was.get(oldEnd).user() == user) {
        oldEnd++;
      }
      int freshEnd = fresh;
      while (freshEnd < is.size() && is.get(freshEnd).user() == user) {
        freshEnd++;
      }
      List<Holding> his = was.subList(old, oldEnd);
      List<Holding> now = is.subList(fresh, freshEnd);
      if (!done.contains(user) && !his.equals(now)) {
        his.forEach(row -> add(row, true));
        now.forEach(row -> add(row, false));
      }
      old = oldEnd;
      fresh = freshEnd;
    }
  }

  /**
   * Rows are compared column by column where there are columns, because what is one row before may
   * be two after.
   */
  private void add(Holding row, boolean isBefore) {
    if (row.columns() == null) {
      add(row, null, isBefore);
    } else {
      row.columns().stream()
          .forEach(
              column -> {
                BitSet one = new BitSet();
                one.set(column);
                add(row, one, isBefore);
              });
    }
  }

  private void add(Holding row, BitSet columns, boolean isBefore) {
    Key key = new Key(row.user(), row.privilege(), row.node(), columns);
    Change so =
        changes.getOrDefault(
            key,
            new Change(row.user(), row.privilege(), row.node(), columns, null, null, false, false));
    State was = isBefore ? better(so.was(), row.state()) : so.was();
    State is = isBefore ? so.is() : better(so.is(), row.state());
    changes.put(
        key,
        new Change(
            row.user(),
            row.privilege(),
            row.node(),
            columns,
            was,
            is,
            isBefore ? so.couldGrant() | row.grantable() : so.couldGrant(),
            isBefore ? so.canGrant() : so.canGrant() | row.grantable()));
  }

  private static State better(State one, State other) {
    return one == null || other.compareTo(one) < 0 ? other : one;
  }

  /** The users that reach one of these over any memberships, before or after. */
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
  private void addViewsOf(IntOpenHashSet owners, IntOpenHashSet nodes) {
    if (!before.rules().checksUnderViews()) {
      return;
    }
    for (int node = 0; node < tree.size(); node++) {
      NodeKind kind = tree.kind(node);
      if (kind == NodeKind.VIEW || kind == NodeKind.ROUTINE) {
        int schema = tree.enclosing(node, NodeKind.SCHEMA);
        int owner = tree.owner(node) >= 0 || schema < 0 ? tree.owner(node) : tree.owner(schema);
        if (owners.contains(owner)) {
          nodes.add(node);
        }
      }
    }
  }

  /** The views that read one of the nodes, or views on those. */
  private void addViewsAbove(IntOpenHashSet nodes) {
    if (!before.rules().checksUnderViews()) {
      return;
    }
    Map<Integer, IntArrayList> above = new LinkedHashMap<>();
    for (int view = 0; view < tree.size(); view++) {
      var reads = before.reads();
      for (int at = reads.byView().from(view); at < reads.byView().to(view); at++) {
        above
            .computeIfAbsent(reads.under()[reads.byView().row(at)], fresh -> new IntArrayList())
            .add(view);
      }
    }
    IntArrayList open = new IntArrayList(nodes);
    while (!open.isEmpty()) {
      IntArrayList views = above.get(open.popInt());
      for (int i = 0; views != null && i < views.size(); i++) {
        if (nodes.add(views.getInt(i))) {
          open.add(views.getInt(i));
        }
      }
    }
  }
}
