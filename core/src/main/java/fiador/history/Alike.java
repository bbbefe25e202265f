package fiador.history;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import java.util.HashMap;
import java.util.Map;

/**
 * Which principal and node of one survey is which of another: those of one name, and of one kind in
 * one place. Mostly they have the same number in both, which is tried first. Cost: what is asked
 * for; where numbers differ, all principals once, and what lies beside the nodes asked for.
 */
final class Alike {
  private static final int NOT_ASKED = -2;

  private final Access one;
  private final Access other;
  private final Int2IntOpenHashMap nodes = new Int2IntOpenHashMap();
  private final Int2IntOpenHashMap principals = new Int2IntOpenHashMap();
  private final Int2ObjectOpenHashMap<Map<Named, Integer>> inside = new Int2ObjectOpenHashMap<>();
  private Map<Local, Integer> people;

  private record Named(NodeKind kind, String name) {}

  private record Local(String name, int scope) {}

  /** For the ids of {@code one}, those of {@code other}. */
  Alike(Access one, Access other) {
    this.one = one;
    this.other = other;
    nodes.defaultReturnValue(NOT_ASKED);
    principals.defaultReturnValue(NOT_ASKED);
  }

  /** The same node in the other, or -1; the server is always the same. */
  int node(int node) {
    if (node <= 0 || node >= one.tree().size()) {
      return node == 0 ? 0 : None.NODE;
    }
    int known = nodes.get(node);
    if (known == NOT_ASKED) {
      int in = node(one.tree().parent(node));
      known = in < 0 ? None.NODE : child(node, in);
      nodes.put(node, known);
    }
    return known;
  }

  private int child(int node, int in) {
    Tree there = other.tree();
    NodeKind kind = one.tree().kind(node);
    String name = one.tree().name(node);
    boolean same =
        node < there.size()
            && there.parent(node) == in
            && there.kind(node) == kind
            && there.name(node).equals(name);
    return same ? node : among(in).getOrDefault(new Named(kind, name), None.NODE);
  }

  private Map<Named, Integer> among(int container) {
    return inside.computeIfAbsent(
        container,
        in -> {
          Map<Named, Integer> found = new HashMap<>();
          for (int child : other.tree().children().run(in)) {
            found.put(new Named(other.tree().kind(child), other.tree().name(child)), child);
          }
          return found;
        });
  }

  /** The same principal in the other, or -1. */
  int principal(int principal) {
    if (principal < 0 || principal >= one.principals().size()) {
      return None.PRINCIPAL;
    }
    int known = principals.get(principal);
    if (known == NOT_ASKED) {
      known = found(principal);
      principals.put(principal, known);
    }
    return known;
  }

  private int found(int principal) {
    Local wanted =
        new Local(one.principals().name(principal), node(one.principals().scope(principal)));
    boolean same = principal < other.principals().size() && local(principal).equals(wanted);
    if (same) {
      return principal;
    }
    if (people == null) {
      people = new HashMap<>();
      for (int id = 0; id < other.principals().size(); id++) {
        people.put(local(id), id);
      }
    }
    return people.getOrDefault(wanted, None.PRINCIPAL);
  }

  private Local local(int there) {
    return new Local(other.principals().name(there), other.principals().scope(there));
  }
}
