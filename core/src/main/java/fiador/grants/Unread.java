package fiador.grants;

import fiador.estate.Few;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Tree;
import java.util.ArrayList;
import java.util.List;

/** Places whose inside a survey did not read, so that an answer about them is not known. */
public final class Unread {
  private static final int NAMED = 4;

  private Unread() {}

  /**
   * The databases and schemas that were not read, or 0 for a server of which not everything was
   * shown. A database that lets nobody in is none of them: nothing in it works for anybody. Cost:
   * the databases and schemas.
   */
  public static List<Integer> places(Access access) {
    Tree tree = access.tree();
    List<Integer> found = new ArrayList<>();
    if (tree.size() > 0 && tree.is(0, NodeFact.UNREAD)) {
      found.add(0);
    }
    for (int place = tree.children().from(0); place < tree.children().to(0); place++) {
      int node = tree.children().row(place);
      if (tree.is(node, NodeFact.UNREAD) && !tree.is(node, NodeFact.CLOSED)) {
        found.add(node);
      }
    }
    return found;
  }

  /** Such as "database archive", for a sentence; empty where everything was read. */
  public static String inWords(Access access) {
    return Few.of(places(access).stream().map(node -> name(access, node)).toList(), NAMED);
  }

  private static String name(Access access, int node) {
    return node == 0
        ? "what the login has no right on"
        : access.tree().kind(node).text() + " " + access.tree().name(node);
  }

  /** The unread place that a path begins with; -1 for none. */
  static int of(Access access, String first) {
    for (int node : places(access)) {
      NodeKind kind = access.tree().kind(node);
      boolean named =
          access.tree().name(node).equals(first)
              || access.tree().name(node).equals(access.rules().fold(first));
      if (kind != NodeKind.SERVER && named) {
        return node;
      }
    }
    return None.NODE;
  }
}
