package fiador.changes;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/** The steps about rows and columns. */
final class SightSteps {
  private SightSteps() {}

  /** Whether a step is about rows and columns and changes no grant. */
  static boolean isAbout(Step step) {
    return step instanceof Step.Guard
        || step instanceof Step.SetAttribute
        || step instanceof Step.DefineLookup
        || step instanceof Step.ShowSafely
        || step instanceof Step.FilterRows;
  }

  /** Whether it makes something, before anybody is granted anything on it. */
  static boolean isFirst(Step step) {
    boolean ends =
        step instanceof Step.ShowSafely show && show.after() == null
            || step instanceof Step.FilterRows filter && filter.after().isEmpty();
    return isAbout(step) && !ends;
  }

  /** Whether a server already shows what such a step does. */
  static boolean isDone(Access access, Step step) {
    Sights sights = access.sights();
    if (step instanceof Step.Guard guard) {
      return sights.guards().containsKey(database(access, guard.database())) == guard.make();
    } else if (step instanceof Step.SetAttribute set) {
      int database = database(access, set.database());
      List<String> is = List.of();
      for (Sights.Attribute attribute : sights.attributes()) {
        boolean same =
            attribute.database() == database
                && attribute.user().equals(set.user())
                && attribute.name().equals(set.attribute());
        is = same ? attribute.values() : is;
      }
      return Set.copyOf(is).equals(Set.copyOf(set.after()));
    } else if (step instanceof Step.DefineLookup define) {
      Step.LookupTable is = null;
      String name = (define.after() == null ? define.before() : define.after()).name();
      for (Sights.LookupTable known : sights.lookups()) {
        if (known.name().equals(name) && known.database() == database(access, define.database())) {
          Step.On table = Planner.on(access.tree(), known.table());
          is = new Step.LookupTable(name, table, known.key(), known.value());
        }
      }
      return Objects.equals(is, define.after());
    } else if (step instanceof Step.ShowSafely show) {
      Step.On view = (show.after() == null ? show.before() : show.after()).view();
      int node = Outcome.find(access.tree(), view);
      Sights.Kept kept = node < 0 ? null : sights.kept().get(node);
      return show.after() == null
          ? node < 0
          : kept != null && kept.asMade() && kept.policies().equals(show.after().policies());
    }
    Step.FilterRows filter = (Step.FilterRows) step;
    Sights.Kept kept = sights.kept().get(Outcome.find(access.tree(), filter.table()));
    return filter.after().isEmpty()
        ? kept == null
        : kept != null && kept.asMade() && kept.policies().equals(filter.after());
  }

  private static int database(Access access, String name) {
    Tree tree = access.tree();
    return name == null ? 0 : tree.child(0, name, node -> tree.kind(node) == NodeKind.DATABASE);
  }
}
