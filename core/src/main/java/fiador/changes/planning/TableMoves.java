package fiador.changes.planning;

import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.Step;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The tables that make room for a view of their name, and those that get it back. */
final class TableMoves {
  private final Collection<String> notes;
  private final List<Step> aside = new ArrayList<>();
  private final List<Step> back = new ArrayList<>();

  TableMoves(Collection<String> notes) {
    this.notes = notes;
  }

  /** The steps that come before the views are made. */
  List<Step> aside() {
    return aside;
  }

  /** The steps that come after the views are gone. */
  List<Step> back() {
    return back;
  }

  /**
   * Moves a table aside, and tells what is no longer as it was.
   *
   * @param access where the table has its new name already, and the view is there
   * @param beside the view that stands beside the table so far; null for none
   */
  void aside(Access access, int table, int view, @Nullable SafeView beside) {
    Tree tree = access.tree();
    On to = Places.on(tree, table);
    On from = named(to, tree.name(view));
    SafeView by = beside == null ? null : beside.of(from);
    aside.add(new MoveTable(from, to, true, by, List.of()));
    if (!access.rules().has(HouseFact.WRITES_THROUGH_VIEWS)) {
      notes.add(
          access.rules().kind()
              + " carries nothing that is written to "
              + tree.path(view)
              + " on to the table: who writes there has to name "
              + tree.path(table)
              + " from then on");
    }
    Sights.Fills fills = access.sights().fills().get(table);
    for (String column : fills == null ? Set.<String>of() : fills.defaults().keySet()) {
      if (fills.plainDefault(column) == null) {
        notes.add(
            tree.path(view)
                + "."
                + column
                + ": its default ("
                + fills.defaults().get(column)
                + ") is not carried over, so what leaves it out under that name leaves it empty");
      }
    }
  }

  /**
   * Gives a table its name back.
   *
   * @param view the view that has its name
   * @param beside the view that stands beside the table from then on; null for none
   */
  void back(Access access, int table, int view, @Nullable SafeView beside) {
    On from = Places.on(access.tree(), table);
    On to = named(from, access.tree().name(view));
    back.add(new MoveTable(from, to, false, beside, List.of()));
  }

  private static On named(On table, String name) {
    List<String> parts = new ArrayList<>(table.parts());
    parts.set(parts.size() - 1, name);
    return new On(table.kind(), table.database(), List.copyOf(parts));
  }
}
