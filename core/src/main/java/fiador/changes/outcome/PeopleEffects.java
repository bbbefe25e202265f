package fiador.changes.outcome;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.IntStream;

/**
 * What a change does to people: which holdings come, go, or change, user by user.
 *
 * <p>Only where a difference can be is looked ({@link Turned}): all holdings of the users whose
 * roles changed, and all holders of the nodes whose grants changed. Cost: those holdings and
 * holders, twice, shared among the processors where there are many.
 */
public final class PeopleEffects {
  /** So many users or nodes are worth a processor of their own, which has to look around first. */
  private static final int WORTH_IT = 100;

  private final Access before;
  private final Access after;
  private final Clock clock;
  private final Tree tree;
  private final List<Change> found = new ArrayList<>();

  /** Of the one user who is looked at, and where that is one node, on it. */
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
    return find(before, outcome, clock, Turned.of(before, outcome));
  }

  /** Of the changes those that give something; cheap where steps only take. */
  public static List<Change> gains(Access before, Outcome.Result outcome, Clock clock) {
    return find(before, outcome, clock, Turned.forMore(before, outcome)).stream()
        .filter(Change::isGain)
        .toList();
  }

  private static List<Change> find(
      Access before, Outcome.Result outcome, Clock clock, Turned turned) {
    Supplier<PeopleEffects> looker = () -> new PeopleEffects(before, outcome.after(), clock);
    List<Change> found = new ArrayList<>();
    found.addAll(inParts(turned.principals(), part -> looker.get().ofUsers(part)));
    found.addAll(inParts(turned.nodes(), part -> looker.get().onNodes(part, turned)));
    found.sort(PeopleEffects::compare);
    return found;
  }

  private static int compare(Change one, Change other) {
    int byUser = Integer.compare(one.user(), other.user());
    int byNode = byUser == 0 ? Integer.compare(one.node(), other.node()) : byUser;
    return byNode == 0 ? one.privilege().compareTo(other.privilege()) : byNode;
  }

  /** Users and nodes have nothing to do with each other; many are looked at side by side. */
  private static List<Change> inParts(IntSet all, Function<int[], List<Change>> look) {
    int[] ids = all.toIntArray();
    int processors = Runtime.getRuntime().availableProcessors();
    int parts = Math.max(1, Math.min(processors, ids.length / WORTH_IT));
    int size = (ids.length + parts - 1) / parts;
    IntStream numbers = IntStream.range(0, ids.length == 0 ? 0 : parts);
    return (parts > 1 ? numbers.parallel() : numbers)
        .mapToObj(
            i ->
                Arrays.copyOfRange(
                    ids, Math.min(ids.length, i * size), Math.min(ids.length, (i + 1) * size)))
        .flatMap(part -> look.apply(part).stream())
        .toList();
  }

  private List<Change> ofUsers(int[] users) {
    Holdings old = new Holdings(before, clock, false);
    Holdings fresh = new Holdings(after, clock, false);
    for (int user : users) {
      boolean was = user < before.principals().size() && before.principals().isUser(user);
      boolean is = after.principals().isUser(user);
      addDifferent(was ? old.of(user) : List.of(), is ? fresh.of(user) : List.of());
    }
    return found;
  }

  private List<Change> onNodes(int[] nodes, Turned turned) {
    Holders oldHolders = new Holders(before, clock);
    Holders freshHolders = new Holders(after, clock);
    for (int node : nodes) {
      if (!tree.isSystem(node)) {
        IntSet users = turned.users(node);
        byUser(oldHolders.among(users, node), freshHolders.among(users, node), turned.principals());
      }
    }
    return found;
  }

  /** Most people hold what they held before; only the others are looked at closely. */
  private void addDifferent(List<Holding> was, List<Holding> is) {
    if (was.equals(is)) {
      return;
    }
    was.forEach(row -> add(row, true));
    is.forEach(row -> add(row, false));
    for (Change each : changes.values()) {
      Change change = withWhole(each);
      if (change.was() != change.is() || change.couldGrant() != change.canGrant()) {
        found.add(change);
      }
    }
    changes.clear();
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
            change.couldGrant() || whole.couldGrant(),
            change.canGrant() || whole.canGrant());
  }

  /**
   * What people have on a node, but for those who are done already; rows of a user stand together.
   */
  private void byUser(List<Holding> was, List<Holding> is, IntSet done) {
    Int2IntOpenHashMap freshAt = new Int2IntOpenHashMap();
    freshAt.defaultReturnValue(is.size());
    for (int fresh = 0; fresh < is.size(); fresh = end(is, fresh, userAt(is, fresh))) {
      freshAt.put(userAt(is, fresh), fresh);
    }
    for (int old = 0; old < was.size(); ) {
      int user = userAt(was, old);
      int fresh = freshAt.remove(user);
      List<Holding> theirs = was.subList(old, end(was, old, user));
      compare(user, theirs, is.subList(fresh, end(is, fresh, user)), done);
      old += theirs.size();
    }
    freshAt
        .int2IntEntrySet()
        .forEach(
            one -> {
              int user = one.getIntKey();
              int fresh = one.getIntValue();
              compare(user, List.of(), is.subList(fresh, end(is, fresh, user)), done);
            });
  }

  private void compare(int user, List<Holding> was, List<Holding> is, IntSet done) {
    if (!done.contains(user) && !was.equals(is) && !addWhole(user, was, is)) {
      addDifferent(was, is);
    }
  }

  private static int userAt(List<Holding> rows, int at) {
    return at < rows.size() ? rows.get(at).user() : Integer.MAX_VALUE;
  }

  private static int end(List<Holding> rows, int from, int user) {
    int end = from;
    while (userAt(rows, end) == user) {
      end++;
    }
    return end;
  }

  /**
   * The differences of one user on one node, where all rows are about the whole, as nearly always;
   * false where they are not.
   */
  private boolean addWhole(int user, List<Holding> was, List<Holding> is) {
    long held = 0;
    for (List<Holding> rows : List.of(was, is)) {
      for (Holding row : rows) {
        if (row.columns() != null) {
          return false;
        }
        held |= row.privilege().bit();
      }
    }
    for (; held != 0; held &= held - 1) {
      Privilege privilege = Privilege.lowest(held);
      State before = best(was, privilege);
      State now = best(is, privilege);
      boolean could = canGrant(was, privilege);
      boolean can = canGrant(is, privilege);
      if (before != now || could != can) {
        int node = (was.isEmpty() ? is : was).get(0).node();
        found.add(new Change(user, privilege, node, null, before, now, could, can));
      }
    }
    return true;
  }

  private static State best(List<Holding> rows, Privilege privilege) {
    State best = null;
    for (Holding row : rows) {
      best = row.privilege() == privilege ? better(best, row.state()) : best;
    }
    return best;
  }

  private static boolean canGrant(List<Holding> rows, Privilege privilege) {
    boolean can = false;
    for (Holding row : rows) {
      can |= row.privilege() == privilege && row.grantable();
    }
    return can;
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
            isBefore ? so.couldGrant() || row.grantable() : so.couldGrant(),
            isBefore ? so.canGrant() : so.canGrant() || row.grantable()));
  }

  private static State better(State one, State other) {
    return one == null || other.compareTo(one) < 0 ? other : one;
  }
}
