package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.Principals;
import fiador.grants.Memberships;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.longs.LongOpenHashSet;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import java.util.function.IntUnaryOperator;

/**
 * Chains of memberships from a user to principals that have a source.
 *
 * <p>A chain is live when every hop is on without switching, and on request when it is some hops of
 * switching followed by hops that are on. Reading a chain from the user's side, four phases tell
 * which of the two it still can be, each chain being in exactly one of them; so chains are walks in
 * a graph of (principal, phase), and none is counted twice. The nearest ones come first: a
 * best-first search whose estimate, the exact distance to a source, is known from a breadth-first
 * search backwards (Hart, Nilsson and Raphael 1968). Cost of {@code n} chains: n times their length
 * and branching, whatever the number of all chains.
 *
 * <p>The number of chains is counted on the component graph of that graph (strongly connected
 * components by Tarjan 1972, without recursion), exactly, as a big integer: principals in a cycle
 * count as one.
 */
final class PathSearch {
  private static final int PHASES = 4;

  /** All hops so far can be switched and are on as well. */
  private static final int SWITCHED_AND_ON = 0;

  /** All hops so far can be switched; one of them is not on. */
  private static final int SWITCHED = 1;

  /** All hops so far are on; one of them cannot be switched. */
  private static final int ON = 2;

  /** Switched, then on. */
  private static final int ON_AFTER_SWITCH = 3;

  private final Memberships memberships;
  private final RoleWalk walk;
  private final int user;
  private final boolean publicAfterSwitch;
  private final IntUnaryOperator sourcesAt;
  private final IntUnaryOperator ownPowerAt;

  private final Int2IntOpenHashMap indexOf = new Int2IntOpenHashMap();
  private final IntArrayList states = new IntArrayList();
  private final List<IntArrayList> next = new ArrayList<>();
  private final List<IntArrayList> previous = new ArrayList<>();
  private final int[] distance;

  /**
   * @param sourcesAt how many sources a principal has that pass on to members
   * @param ownPowerAt how many it has that only count for itself
   * @param publicAfterSwitch whether PUBLIC is also looked at behind a switch
   */
  PathSearch(
      Memberships memberships,
      RoleWalk walk,
      int user,
      boolean publicAfterSwitch,
      IntUnaryOperator sourcesAt,
      IntUnaryOperator ownPowerAt) {
    this.memberships = memberships;
    this.walk = walk;
    this.user = user;
    this.publicAfterSwitch = publicAfterSwitch;
    this.sourcesAt = sourcesAt;
    this.ownPowerAt = ownPowerAt;
    indexOf.defaultReturnValue(-1);
    explore();
    this.distance = distances();
  }

  /**
   * A chain that ends in sources.
   *
   * @param principals from the user to the one that has the source
   * @param live whether every hop is on without switching
   * @param ownPower whether it is the last one's own power that counts, not what it passes on
   */
  record Chain(int[] principals, boolean live, boolean ownPower) {}

  private void explore() {
    indexOf(user * PHASES + SWITCHED_AND_ON);
    for (int at = 0; at < states.size(); at++) {
      int state = states.getInt(at);
      IntArrayList following = following(state / PHASES, state % PHASES, at == 0);
      for (int i = 0; i < following.size(); i++) {
        int to = indexOf(following.getInt(i));
        next.get(at).add(to);
        previous.get(to).add(at);
      }
    }
  }

  private int indexOf(int state) {
    int index = indexOf.get(state);
    if (index < 0) {
      index = states.size();
      indexOf.put(state, index);
      states.add(state);
      next.add(new IntArrayList(4));
      previous.add(new IntArrayList(4));
    }
    return index;
  }

  private IntArrayList following(int principal, int phase, boolean start) {
    Int2IntOpenHashMap options = new Int2IntOpenHashMap();
    Adjacency edges = memberships.rolesOf();
    for (int place = edges.from(principal); place < edges.to(principal); place++) {
      int edge = edges.row(place);
      int bits =
          (walk.follows(edge, RoleWalk.Along.SET) ? 1 : 0)
              | (walk.follows(edge, RoleWalk.Along.INHERIT) ? 2 : 0);
      int role = memberships.role(edge);
      options.put(role, options.get(role) | bits);
    }
    IntArrayList found = new IntArrayList();
    options
        .int2IntEntrySet()
        .forEach(
            hop -> {
              int reached = after(phase, hop.getIntValue());
              if (reached >= 0) {
                found.add(hop.getIntKey() * PHASES + reached);
              }
            });
    found.sort(null);
    if (start) {
      // whoever holds what everybody holds can switch to it as if it were their own
      found.add(Principals.PUBLIC * PHASES + SWITCHED_AND_ON);
    } else if (publicAfterSwitch && phase <= SWITCHED && principal != Principals.PUBLIC) {
      found.add(Principals.PUBLIC * PHASES + ON_AFTER_SWITCH);
    }
    return found;
  }

  private static int after(int phase, int options) {
    boolean set = (options & 1) != 0;
    boolean on = (options & 2) != 0;
    return switch (phase) {
      case SWITCHED_AND_ON -> set ? (on ? SWITCHED_AND_ON : SWITCHED) : on ? ON : -1;
      case SWITCHED -> set ? SWITCHED : on ? ON_AFTER_SWITCH : -1;
      default -> on ? phase : -1;
    };
  }

  /** How many sources a chain that ends here has. */
  private int accepted(int index, boolean ownPower) {
    int principal = states.getInt(index) / PHASES;
    int phase = states.getInt(index) % PHASES;
    return ownPower
        ? phase <= SWITCHED ? ownPowerAt.applyAsInt(principal) : 0
        : sourcesAt.applyAsInt(principal);
  }

  private int[] distances() {
    int[] found = new int[states.size()];
    java.util.Arrays.fill(found, Integer.MAX_VALUE);
    IntArrayList queue = new IntArrayList();
    for (int i = 0; i < found.length; i++) {
      if (accepted(i, false) + accepted(i, true) > 0) {
        found[i] = 0;
        queue.add(i);
      }
    }
    for (int at = 0; at < queue.size(); at++) {
      IntArrayList before = previous.get(queue.getInt(at));
      for (int i = 0; i < before.size(); i++) {
        if (found[before.getInt(i)] == Integer.MAX_VALUE) {
          found[before.getInt(i)] = found[queue.getInt(at)] + 1;
          queue.add(before.getInt(i));
        }
      }
    }
    return found;
  }

  /**
   * Whether anybody can come up twice on a way. Where nobody can, no way has to be walked back to
   * see that; most servers allow no circles of roles at all.
   */
  private boolean circular() {
    Int2IntOpenHashMap numbers = new Int2IntOpenHashMap();
    List<IntArrayList> members = new ArrayList<>();
    for (int i = 0; i < states.size(); i++) {
      numbers.putIfAbsent(states.getInt(i) / PHASES, members.size());
      if (numbers.size() > members.size()) {
        members.add(new IntArrayList(2));
      }
    }
    for (int i = 0; i < states.size(); i++) {
      IntArrayList of = members.get(numbers.get(states.getInt(i) / PHASES));
      for (int j = 0; j < next.get(i).size(); j++) {
        of.add(numbers.get(states.getInt(next.get(i).getInt(j)) / PHASES));
      }
    }
    int[] component = new Components(members).of();
    java.util.BitSet seen = new java.util.BitSet();
    for (int i = 0; i < component.length; i++) {
      boolean itself = members.get(i).contains(i);
      if (itself || seen.get(component[i])) {
        return true;
      }
      seen.set(component[i]);
    }
    return false;
  }

  private record Partial(int index, Partial before, int length, int estimate, boolean complete) {
    boolean holds(int principal, IntArrayList states) {
      for (Partial at = this; at != null; at = at.before) {
        if (states.getInt(at.index) / PHASES == principal) {
          return true;
        }
      }
      return false;
    }
  }

  /** The nearest chains, at most {@code limit}, shortest first. */
  List<Chain> nearest(int limit) {
    List<Chain> chains = new ArrayList<>();
    PriorityQueue<Partial> open =
        new PriorityQueue<>(
            Comparator.comparingInt(Partial::estimate)
                .thenComparing(Comparator.comparingInt(Partial::length).reversed()));
    boolean circular = circular();
    if (distance[0] < Integer.MAX_VALUE) {
      open.add(new Partial(0, null, 0, distance[0], false));
    }
    while (!open.isEmpty() && chains.size() < limit) {
      Partial best = open.poll();
      if (best.complete()) {
        addChains(best, chains);
        continue;
      }
      if (distance[best.index()] == 0) {
        open.add(new Partial(best.index(), best.before(), best.length(), best.length(), true));
      }
      IntArrayList following = next.get(best.index());
      for (int i = 0; i < following.size(); i++) {
        int to = following.getInt(i);
        boolean again = circular && best.holds(states.getInt(to) / PHASES, states);
        if (distance[to] < Integer.MAX_VALUE && !again) {
          int length = best.length() + 1;
          open.add(new Partial(to, best, length, length + distance[to], false));
        }
      }
    }
    return chains;
  }

  private void addChains(Partial end, List<Chain> chains) {
    int[] principals = new int[end.length() + 1];
    int i = end.length();
    for (Partial at = end; at != null; at = at.before()) {
      principals[i--] = states.getInt(at.index()) / PHASES;
    }
    int phase = states.getInt(end.index()) % PHASES;
    boolean live = phase == SWITCHED_AND_ON || phase == ON;
    if (accepted(end.index(), false) > 0) {
      chains.add(new Chain(principals, live, false));
    }
    if (accepted(end.index(), true) > 0) {
      chains.add(new Chain(principals, end.length() == 0, true));
    }
  }

  /** How many paths there are: chains times the sources at their ends. */
  BigInteger count() {
    int[] component = new Components(next).of();
    int components = 0;
    for (int c : component) {
      components = Math.max(components, c + 1);
    }
    BigInteger[] ways = new BigInteger[components];
    List<IntOpenHashSet> into = new ArrayList<>();
    BigInteger[] ends = new BigInteger[components];
    for (int c = 0; c < components; c++) {
      into.add(new IntOpenHashSet());
      ends[c] = BigInteger.ZERO;
    }
    LongOpenHashSet once = new LongOpenHashSet();
    for (int at = 0; at < next.size(); at++) {
      int from = component[at];
      ends[from] = ends[from].add(BigInteger.valueOf(accepted(at, false) + accepted(at, true)));
      for (int i = 0; i < next.get(at).size(); i++) {
        int to = component[next.get(at).getInt(i)];
        if (from != to && once.add(((long) from << 32) | to)) {
          into.get(from).add(to);
        }
      }
    }
    // components are numbered so that edges lead from higher to lower numbers
    for (int c = 0; c < components; c++) {
      ways[c] = ends[c];
      for (int to : into.get(c).toIntArray()) {
        ways[c] = ways[c].add(ways[to]);
      }
    }
    return ways[component[0]];
  }
}
