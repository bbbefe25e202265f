package fiador.changes.steps;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import java.util.ArrayList;
import java.util.List;

/** From the nodes of a server to the names by which steps know them, and back. */
public final class Places {
  private Places() {}

  /** A node by the names that statements need. */
  public static On on(Tree tree, int node) {
    int database = tree.enclosing(node, NodeKind.DATABASE);
    List<String> parts = new ArrayList<>();
    for (int at = node; at > 0 && (at != database || at == node); at = tree.parent(at)) {
      parts.add(0, tree.name(at));
    }
    boolean closed = database >= 0 && tree.is(database, NodeFact.UNREAD);
    String in = database < 0 || closed ? null : tree.name(database);
    return new On(tree.kind(node), in, List.copyOf(parts), tree.is(node, NodeFact.PROCEDURE));
  }

  /** The node that a step's name means. */
  public static int node(Tree tree, On on) {
    int found = find(tree, on);
    if (found < 0) {
      throw new IllegalArgumentException("there is no " + on.kind().text() + " " + on.parts());
    }
    return found;
  }

  /** The node that is meant, -1 if it is not there. */
  public static int find(Tree tree, On on) {
    int at = 0;
    if (on.kind() == NodeKind.SERVER) {
      return at;
    }
    if (on.database() != null) {
      at = tree.child(0, on.database(), node -> tree.kind(node) == NodeKind.DATABASE);
    }
    List<String> parts = on.kind() == NodeKind.DATABASE ? List.of() : on.parts();
    if (on.kind() == NodeKind.DATABASE && on.database() == null) {
      at = tree.child(0, on.parts().get(0), node -> tree.kind(node) == NodeKind.DATABASE);
    }
    for (int i = 0; i < parts.size() && at >= 0; i++) {
      boolean last = i == parts.size() - 1;
      at = tree.child(at, parts.get(i), node -> !last || tree.kind(node) == on.kind());
    }
    return at;
  }
}
