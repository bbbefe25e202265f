package fiador.history;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.grants.Access;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * Which principal and node of one survey is which of another: those of one name, and of one kind in
 * one place. Cost: both.
 */
final class Alike {
  private final int[] principals;
  private final int[] nodes;

  private record Place(int in, NodeKind kind, String name) {}

  private record Named(String name, int scope) {}

  /** For the ids of {@code one}, those of {@code other}. */
  Alike(Access one, Access other) {
    Map<Place, Integer> places = new HashMap<>();
    for (int node = 1; node < other.tree().size(); node++) {
      places.put(place(other, node, other.tree().parent(node)), node);
    }
    nodes = new int[one.tree().size()];
    for (int node = 1; node < nodes.length; node++) {
      int in = nodes[one.tree().parent(node)];
      nodes[node] = in < 0 ? None.NODE : places.getOrDefault(place(one, node, in), None.NODE);
    }
    Map<Named, Integer> names = new HashMap<>();
    for (int principal = 0; principal < other.principals().size(); principal++) {
      names.put(named(other, principal, other.principals().scope(principal)), principal);
    }
    principals = new int[one.principals().size()];
    Arrays.setAll(
        principals,
        principal ->
            names.getOrDefault(
                named(one, principal, node(one.principals().scope(principal))), None.PRINCIPAL));
  }

  private static Place place(Access access, int node, int in) {
    return new Place(in, access.tree().kind(node), access.tree().name(node));
  }

  private static Named named(Access access, int principal, int scope) {
    return new Named(access.principals().name(principal), scope);
  }

  /** The same node in the other, or -1; the server is always the same. */
  int node(int node) {
    return node < 0 || node >= nodes.length ? None.NODE : nodes[node];
  }

  /** The same principal in the other, or -1. */
  int principal(int principal) {
    return principal < 0 || principal >= principals.length ? None.PRINCIPAL : principals[principal];
  }
}
