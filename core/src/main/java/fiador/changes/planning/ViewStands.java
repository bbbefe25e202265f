package fiador.changes.planning;

import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.WantedSight;
import fiador.estate.Few;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights;
import fiador.grants.rules.HouseFact;
import fiador.policies.SafeColumn;
import fiador.policies.UnderName;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Where the views stand through which tables are read: beside them, or under their names. Cost: the
 * tables with policies, and for each that is to move the views of the server.
 */
final class ViewStands {
  /** What stands behind a table's name in that of the view beside it. */
  private static final String SAFE = "_safe";

  private static final int NAMED = 4;

  private final Access access;
  private final Tree tree;
  private final Governed governed;
  private final List<Problem> problems;
  private final Set<String> notes;
  private final Set<Integer> lookedUp = new HashSet<>();
  private final Map<Integer, Integer> underName = new HashMap<>();
  private final Map<Integer, Integer> beside = new HashMap<>();
  private final List<Tree.NewView> fresh = new ArrayList<>();
  private final Map<Integer, String> renamed = new LinkedHashMap<>();

  /**
   * Through which view a table is to be read.
   *
   * @param view the view's node, which may be one that is still to be made
   * @param kept how it was made; null when it is still to be made
   * @param underName whether it stands under the table's name
   * @param moves whether the table has to make room for it
   * @param leaving the view through which it is read so far, where that is another; -1 for none
   */
  record Stand(
      int view, Sights.@Nullable Kept kept, boolean underName, boolean moves, int leaving) {}

  /**
   * @param lookups the lookup tables that policies are to read
   */
  ViewStands(
      Access access,
      Governed governed,
      List<WantedSight.Lookup> lookups,
      List<Problem> problems,
      Set<String> notes) {
    this.access = access;
    this.tree = access.tree();
    this.governed = governed;
    this.problems = problems;
    this.notes = notes;
    access.sights().lookups().forEach(each -> lookedUp.add(each.table()));
    lookups.forEach(each -> lookedUp.add(new Lookup(access).node(each.table(), 0, false).id()));
    access
        .sights()
        .kept()
        .forEach(
            (view, kept) -> {
              if (view != kept.table()) {
                boolean under = UnderName.is(access, view, kept);
                (under ? underName : beside).put(kept.table(), view);
              }
            });
  }

  /** The name by which people know a table, whether or not it stands aside. */
  private String name(int table) {
    Integer view = underName.get(table);
    return tree.name(view == null ? table : view);
  }

  /** The view that stands beside a table; null for none. */
  @Nullable Integer beside(int table) {
    return beside.get(table);
  }

  /** Where a table's view is to stand; null when it cannot, and then there is a problem. */
  @Nullable Stand of(int table, boolean under) {
    if (!governed.node(table)) {
      return refused(
          tree.path(table)
              + " is to be read only through a safe view, so its schema must stand under"
              + " \"governs\": else who may read the table itself goes on doing so");
    }
    String quoted =
        access
            .rules()
            .refusesSafeView(SafeColumn.all(tree, table).stream().map(SafeColumn::name).toList());
    if (quoted != null) {
      return refused(tree.path(table) + ": " + quoted);
    }
    if (under && tree.kind(table) != NodeKind.TABLE) {
      return refused(
          tree.path(table)
              + " is a view itself: another one can show it safely beside it, but not under its"
              + " name");
    }
    return under ? underItsName(table) : besideIt(table);
  }

  private @Nullable Stand refused(String why) {
    problems.add(new Problem(null, why));
    return null;
  }

  private @Nullable Stand besideIt(int table) {
    String name = UnderName.ended(access.rules(), name(table), SAFE);
    int view = tree.child(tree.parent(table), name, node -> true);
    Sights.Kept kept = view < 0 ? null : access.sights().kept().get(view);
    if (view >= 0 && (kept == null || kept.table() != table)) {
      return refused(
          tree.path(view)
              + " is there already and was not made from policies; rename it, so that "
              + tree.path(table)
              + " can be shown safely under that name");
    }
    int leaving = underName.getOrDefault(table, -1);
    return new Stand(view < 0 ? fresh(table, name) : view, kept, false, false, leaving);
  }

  private @Nullable Stand underItsName(int table) {
    Integer stands = underName.get(table);
    int leaving = beside.getOrDefault(table, -1);
    if (stands != null) {
      return new Stand(stands, access.sights().kept().get(stands), true, false, leaving);
    }
    String aside = UnderName.aside(access.rules(), tree.name(table));
    int taken = tree.child(tree.parent(table), aside, node -> true);
    String path = tree.path(table);
    if (taken >= 0) {
      return refused(
          tree.path(taken)
              + " is there already: rename it, so that "
              + path
              + " can stand aside under that name");
    }
    if (lookedUp.contains(table)) {
      return refused(
          path
              + " is a lookup table of policies, and those know it by its name: let its view stand"
              + " beside it");
    }
    Set<String> readers = new TreeSet<>();
    for (int view = 0; view < tree.size(); view++) {
      if (view != leaving && reads(view, table)) {
        readers.add(tree.path(view));
      }
    }
    if (!readers.isEmpty() && !access.rules().has(HouseFact.RENAMES_UNDER_VIEWS)) {
      return refused(
          path
              + " cannot stand aside while views read it: drop "
              + Few.of(readers, NAMED)
              + ", settle, and make them again on what then has its name");
    }
    if (!readers.isEmpty() && access.rules().has(HouseFact.VIEWS_FOLLOW_TABLES)) {
      notes.add(
          Few.of(readers, NAMED)
              + (readers.size() == 1 ? " goes" : " go")
              + " on reading the table itself, now "
              + aside
              + ", and not what is shown as "
              + path
              + ": make such views again to have its policies act there (bypass says who sees"
              + " what)");
    }
    int view = fresh(table, tree.name(table));
    renamed.put(table, aside);
    return new Stand(view, null, true, true, leaving);
  }

  private boolean reads(int view, int table) {
    boolean isView =
        tree.kind(view) == NodeKind.VIEW || tree.kind(view) == NodeKind.MATERIALIZED_VIEW;
    if (!isView) {
      return false;
    }
    var rows = access.reads().byView();
    for (int place = rows.from(view); place < rows.to(view); place++) {
      if (access.reads().under().get(rows.row(place)) == table) {
        return true;
      }
    }
    return false;
  }

  private int fresh(int table, String name) {
    fresh.add(new Tree.NewView(tree.parent(table), name, table));
    return tree.size() + fresh.size() - 1;
  }

  /** The server with the views that are still to be made, and the names of those that move. */
  Access access() {
    return fresh.isEmpty()
        ? access
        : access.withMore(tree.withViews(fresh, renamed, access.principals().size()));
  }
}
