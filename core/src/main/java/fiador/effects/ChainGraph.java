package fiador.effects;

import fiador.effects.PathSearch.Chain;
import fiador.estate.Adjacency;
import fiador.estate.Principals;
import fiador.grants.Memberships;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * All that one user can reach by memberships, as a graph of (principal, phase).
 *
 * <p>Reading a chain of memberships from the user's side, four phases tell whether it still can be
 * live or on request, each chain being in exactly one of them; so chains are walks in this graph,
 * and none is counted twice. It says nothing of what somebody has; so it is made once for all that
 * is asked about the user. Cost: the memberships that are reached.
 */
final class ChainGraph {
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

  private final Int2IntOpenHashMap indexOf = new Int2IntOpenHashMap();
  private final IntArrayList states = new IntArrayList();
  private final List<IntArrayList> next = new ArrayList<>();
  private final List<IntArrayList> previous = new ArrayList<>();
  private final Map<IntArrayList, List<Chain>> nearest = new HashMap<>();
  private @Nullable Boolean circular;

  /**
   * @param publicAfterSwitch whether PUBLIC is also looked at behind a switch
   */
  ChainGraph(Memberships memberships, RoleWalk walk, int user, boolean publicAfterSwitch) {
    this.memberships = memberships;
    this.walk = walk;
    this.user = user;
    this.publicAfterSwitch = publicAfterSwitch;
    indexOf.defaultReturnValue(-1);
    explore();
  }

  /**
   * The nearest chains to some states, where those were asked for before.
   *
   * @param accepting the states, not to be written to any more
   * @param search finds them
   */
  List<Chain> nearest(IntArrayList accepting, Supplier<List<Chain>> search) {
    return nearest.computeIfAbsent(accepting, fresh -> search.get());
  }

  /** How many states there are; the first is where the user begins. */
  int size() {
    return states.size();
  }

  /** The states that are about somebody. */
  IntArrayList of(int principal) {
    IntArrayList found = new IntArrayList(PHASES);
    for (int phase = 0; phase < PHASES; phase++) {
      int index = indexOf.get(principal * PHASES + phase);
      if (index >= 0) {
        found.add(index);
      }
    }
    return found;
  }

  /** Who it is about. */
  int principal(int state) {
    return states.getInt(state) / PHASES;
  }

  /** Whether nobody has to be switched to on a chain that ends here. */
  boolean isLive(int state) {
    int phase = states.getInt(state) % PHASES;
    return phase == SWITCHED_AND_ON || phase == ON;
  }

  /** Whether the user can be switched to whom it is about. */
  boolean isSwitched(int state) {
    return states.getInt(state) % PHASES <= SWITCHED;
  }

  /** Where one membership leads from there. */
  IntArrayList next(int state) {
    return next.get(state);
  }

  /** From where one membership leads there. */
  IntArrayList previous(int state) {
    return previous.get(state);
  }

  /** All of {@link #next}. */
  List<IntArrayList> edges() {
    return next;
  }

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

  /**
   * Whether anybody can come up twice on a way. Where nobody can, no way has to be walked back to
   * see that; most servers allow no circles of roles at all.
   */
  boolean isCircular() {
    if (circular == null) {
      circular = findCircle();
    }
    return circular;
  }

  private boolean findCircle() {
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
    BitSet seen = new BitSet();
    for (int i = 0; i < component.length; i++) {
      boolean itself = members.get(i).contains(i);
      if (itself || seen.get(component[i])) {
        return true;
      }
      seen.set(component[i]);
    }
    return false;
  }
}
