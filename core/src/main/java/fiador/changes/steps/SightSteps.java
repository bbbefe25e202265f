package fiador.changes.steps;

import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/** The steps about rows and columns. */
public final class SightSteps {
  /** The rule that opens a table whose policies only narrow, where a server needs one to. */
  public static final String OPEN_RULE = "fiador open";

  private SightSteps() {}

  /** Whether a step is about rows and columns and changes no grant. */
  public static boolean isAbout(Step step) {
    return step instanceof Step.Guard
        || step instanceof Step.SetAttribute
        || step instanceof Step.DefineLookup
        || step instanceof Step.ShowSafely
        || step instanceof Step.FilterRows;
  }

  /** Whether it makes something, before anybody is granted anything on it. */
  public static boolean isFirst(Step step) {
    boolean ends =
        step instanceof Step.ShowSafely show && show.after() == null
            || step instanceof Step.Guard guard && !guard.make()
            || step instanceof Step.DefineLookup define && define.after() == null
            || step instanceof Step.FilterRows filter && filter.after().isEmpty();
    return isAbout(step) && !ends;
  }

  /** Whether a server already shows what such a step does. */
  public static boolean isDone(Access access, Step step) {
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
        boolean here = known.database() == database(access, define.database());
        boolean counts = known.asMade() || define.after() == null;
        if (known.name().equals(name) && here && counts) {
          is = lookupTable(access.tree(), known);
        }
      }
      return Objects.equals(is, define.after());
    } else if (step instanceof Step.ShowSafely show) {
      Step.On view = (show.after() == null ? show.before() : show.after()).view();
      int node = Places.find(access.tree(), view);
      Sights.Kept kept = node < 0 ? null : sights.kept().get(node);
      return show.after() == null
          ? node < 0
          : kept != null && kept.asMade() && kept.policies().equals(show.after().policies());
    }
    Step.FilterRows filter = (Step.FilterRows) step;
    Sights.Kept kept = sights.kept().get(Places.find(access.tree(), filter.table()));
    return filter.after().isEmpty()
        ? kept == null
        : kept != null && kept.asMade() && kept.policies().equals(filter.after());
  }

  /** A lookup table that is there. */
  public static Step.LookupTable lookupTable(Tree tree, Sights.LookupTable known) {
    return new Step.LookupTable(
        known.name(),
        Places.on(tree, known.table()),
        column(tree, known.table(), known.key()),
        column(tree, known.table(), known.value()));
  }

  private static SafeColumn column(Tree tree, int table, String name) {
    int ordinal = tree.columnNamed(table, name);
    ColumnType type = ordinal < 0 ? ColumnType.OTHER : tree.columnType(table, ordinal);
    return new SafeColumn(name, type);
  }

  private static int database(Access access, String name) {
    Tree tree = access.tree();
    return name == null ? 0 : tree.child(0, name, node -> tree.kind(node) == NodeKind.DATABASE);
  }
}
