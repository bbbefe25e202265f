package fiador.grants;

import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntArrays;
import it.unimi.dsi.fastutil.ints.IntLinkedOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.function.IntPredicate;

/**
 * Who reaches whom over memberships, however they are held: breadth first, so nearest first, and
 * without harm from circles. Remembers who reaches a role. Cost of a new question: the memberships
 * it sees.
 */
public final class Reach {
  private final Memberships memberships;
  private final IntPredicate follows;
  private final Int2ObjectOpenHashMap<IntOpenHashSet> belowOf = new Int2ObjectOpenHashMap<>();

  /** Over all memberships of that server. */
  public Reach(Access access) {
    this(access, edge -> true);
  }

  /** Over those memberships only that pass the test. */
  public Reach(Access access, IntPredicate follows) {
    this.memberships = access.memberships();
    this.follows = follows;
  }

  /** All that {@code principal} holds, itself first. */
  public IntArrayList up(int principal) {
    IntArrayList reached = IntArrayList.of(principal);
    IntOpenHashSet seen = new IntOpenHashSet(reached);
    for (int at = 0; at < reached.size(); at++) {
      var edges = memberships.rolesOf();
      int member = reached.getInt(at);
      for (int place = edges.from(member); place < edges.to(member); place++) {
        int edge = edges.row(place);
        if (follows.test(edge) && seen.add(memberships.role(edge))) {
          reached.add(memberships.role(edge));
        }
      }
    }
    return reached;
  }

  /**
   * Everybody that somebody can act as, itself first: whom it can switch to, directly or through
   * others, and whose rights come along with one of them.
   */
  public static IntArrayList actingAs(Access access, int principal) {
    Memberships edges = access.memberships();
    Reach inherited = new Reach(access, edge -> edges.options(edge).inherit());
    IntLinkedOpenHashSet found = new IntLinkedOpenHashSet();
    for (int on : new Reach(access, edge -> edges.options(edge).set()).up(principal)) {
      found.addAll(inherited.up(on));
    }
    return new IntArrayList(found);
  }

  /** All that hold {@code role}, and itself; not to be written to. */
  public IntOpenHashSet below(int role) {
    IntOpenHashSet known = belowOf.get(role);
    if (known == null) {
      known = allBelow(role);
      belowOf.put(role, known);
    }
    return known;
  }

  /** The same, looked up anew and not remembered: for those who ask for each role but once. */
  public IntOpenHashSet allBelow(int role) {
    IntArrayList reached = IntArrayList.of(role);
    IntOpenHashSet seen = new IntOpenHashSet(reached);
    while (!reached.isEmpty()) {
      var edges = memberships.membersOf();
      int at = reached.popInt();
      for (int place = edges.from(at); place < edges.to(at); place++) {
        int edge = edges.row(place);
        if (follows.test(edge) && seen.add(memberships.member(edge))) {
          reached.add(memberships.member(edge));
        }
      }
    }
    return seen;
  }

  /** Whether the one holds the other, or is it. */
  public boolean holds(int principal, int role) {
    return principal == role || below(role).contains(principal);
  }

  /** A shortest chain from the one to the other, both included; empty when there is none. */
  public IntArrayList chain(int from, int to) {
    Int2IntOpenHashMap cameFrom = new Int2IntOpenHashMap();
    cameFrom.put(from, -1);
    IntArrayList open = IntArrayList.of(from);
    for (int at = 0; at < open.size() && !cameFrom.containsKey(to); at++) {
      for (int edge : memberships.rolesOf().run(open.getInt(at))) {
        if (follows.test(edge) && !cameFrom.containsKey(memberships.role(edge))) {
          cameFrom.put(memberships.role(edge), open.getInt(at));
          open.add(memberships.role(edge));
        }
      }
    }
    IntArrayList chain = new IntArrayList();
    if (cameFrom.containsKey(to)) {
      for (int at = to; at >= 0; at = cameFrom.get(at)) {
        chain.add(at);
      }
    }
    IntArrays.reverse(chain.elements(), 0, chain.size());
    return chain;
  }
}
