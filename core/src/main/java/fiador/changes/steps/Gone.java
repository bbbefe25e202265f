package fiador.changes.steps;

import fiador.estate.Tree;
import fiador.grants.Access;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Steps that cannot be carried out any more, because what they are about was dropped meanwhile. A
 * journal may be older than what somebody did by hand. Cost: the steps.
 */
public final class Gone {
  private final Access access;
  private final Set<String> made = new HashSet<>();

  private Gone(Access access) {
    this.access = access;
  }

  /**
   * Those among some steps, in their order, and what is no longer there.
   *
   * @param steps as they would be carried out: what one of them makes is there for the next
   */
  public static Map<Step, String> among(List<Step> steps, Access access) {
    Gone gone = new Gone(access);
    Map<Step, String> found = new LinkedHashMap<>();
    for (Step step : steps) {
      String what = gone.lacks(step);
      if (what == null) {
        gone.makes(step);
      } else {
        found.put(step, what);
      }
    }
    return found;
  }

  private void makes(Step step) {
    if (step instanceof CreateRole role) {
      made.add(role.role());
    } else if (step instanceof CreateUser user) {
      made.add(user.user());
    } else if (step instanceof Rename rename) {
      made.add(rename.to());
    } else if (step instanceof ShowSafely show && show.after() != null) {
      made.add(show.after().view().parts().toString());
    } else if (step instanceof MoveTable move) {
      made.add(move.to().parts().toString());
    }
  }

  private @Nullable String lacks(Step step) {
    for (String name : step.principals()) {
      boolean known = name.equals("PUBLIC") || access.principals().named(name) >= 0;
      if (!known && !made.contains(name)) {
        return "there is no user or role " + name + " any more";
      }
    }
    On on = step.on();
    if (on == null || made.contains(on.parts().toString())) {
      return null;
    }
    Tree tree = access.tree();
    int node = Places.find(tree, on);
    if (node < 0) {
      return "there is no " + on.kind().text() + " " + String.join(".", on.parts()) + " any more";
    }
    for (String column : step.columnNames()) {
      if (tree.columnNamed(node, column) < 0) {
        return "there is no column " + column + " of " + tree.path(node) + " any more";
      }
    }
    return null;
  }
}
