package fiador.changes.planning;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightSteps;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.grants.rules.HouseFact;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * What has to be done so that tables show the rows and columns that a charter's policies leave: on
 * servers that filter rows themselves by rules on the table; else, and for masks, by a view beside
 * the table, which takes over the table's readers. Cost: the policies times the tables they name.
 */
final class SightPlanner {
  /** What stands behind a table's name in that of the view that shows it safely. */
  static final String SAFE = "_safe";

  private final Access access;
  private final Tree tree;
  private final Wanted wanted;
  private final Governed governed;
  private final boolean mayDrop;
  private final UnaryOperator<String> stored;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();
  private final List<Step> first = new ArrayList<>();
  private final List<Step> last = new ArrayList<>();

  /**
   * What came of it.
   *
   * @param access the server with the views that are still to be made
   * @param safe through what a table's readers go on, by the table
   * @param first steps that come before grants
   * @param last steps that come after everything else
   */
  record Result(
      Access access,
      Map<Integer, ShownSafely> safe,
      List<Step> first,
      List<Step> last,
      List<Problem> problems,
      Set<String> notes) {}

  /**
   * @param mayDrop whether the guarded schema goes where no policy needs it
   */
  SightPlanner(
      Access access,
      Wanted wanted,
      Governed governed,
      boolean mayDrop,
      UnaryOperator<String> stored) {
    this.mayDrop = mayDrop;
    this.access = access;
    this.tree = access.tree();
    this.wanted = wanted;
    this.governed = governed;
    this.stored = stored;
  }

  Result plan() {
    if (!wanted.sight().decided()) {
      return asItIs();
    }
    access.sights().doubts().forEach(this::doubted);
    SightDemands demands = new SightDemands(access, wanted, stored);
    Map<Integer, TableSight> desired = demands.desired();
    problems.addAll(demands.problems());
    Map<Integer, Integer> views = views(desired);
    Set<Integer> databases = new LinkedHashSet<>();
    desired.keySet().forEach(table -> databases.add(database(table)));
    GuardPlanner guards = new GuardPlanner(access, wanted, mayDrop, stored);
    databases.forEach(database -> take(guards.guarded(database)));
    List<Tree.NewView> fresh = new ArrayList<>();
    Map<Integer, ShownSafely> safe = new HashMap<>();
    desired.forEach((table, policies) -> show(table, policies, views, fresh, safe));
    obsolete(desired);
    for (int database : access.sights().guards().keySet()) {
      boolean kept =
          access.sights().kept().values().stream()
              .anyMatch(each -> database(each.table()) == database && !governed.node(each.table()));
      if (!databases.contains(database) && !kept) {
        take(guards.unguarded(database));
      }
    }
    Access with =
        fresh.isEmpty()
            ? access
            : access.withMore(tree.withViews(fresh, access.principals().size()));
    return new Result(with, safe, first, last, problems, notes);
  }

  /**
   * Policies that the charter says nothing about stay, and so do the views that stand for tables.
   */
  private Result asItIs() {
    Map<Integer, ShownSafely> safe = standing();
    if (!access.sights().kept().isEmpty()) {
      notes.add(
          "the policies on the server are left alone, because the charter has none; row_policies: {}"
              + " in it takes them away");
    }
    return new Result(access, safe, first, last, problems, notes);
  }

  /** Through what the readers of tables go on as the server is, by the table. */
  static Map<Integer, ShownSafely> standing(Access access) {
    Wanted nothing = new Wanted(List.of(), List.of(), List.of(), List.of());
    Governed all = new Governed(access, nothing, Set.of());
    return new SightPlanner(access, nothing, all, false, name -> name).standing();
  }

  private Map<Integer, ShownSafely> standing() {
    Map<Integer, ShownSafely> safe = new HashMap<>();
    access
        .sights()
        .kept()
        .forEach(
            (node, kept) -> {
              if (node != kept.table()) {
                safe.put(kept.table(), new ShownSafely(node, open(kept)));
              }
            });
    return safe;
  }

  private BitSet open(Sights.Kept kept) {
    try {
      return open(kept.table(), SightText.read(kept.policies(), columns(kept.table())));
    } catch (IllegalArgumentException doesNotFit) {
      // a column was dropped or renamed since: what was masked is not known
      return new BitSet();
    }
  }

  /** The columns in which a table itself shows no more than its safe view. */
  private BitSet open(int table, TableSight policies) {
    BitSet open = new BitSet();
    boolean hides = !policies.rows().isEmpty() && !natively();
    boolean byColumn = (access.rules().columnPrivileges() & Privilege.SELECT.bit()) != 0;
    if (!hides && byColumn) {
      open.set(0, tree.columns(table));
      policies.masks().forEach(mask -> open.clear(tree.columnNamed(table, mask.column())));
    }
    return open;
  }

  private void take(GuardPlanner.Part part) {
    first.addAll(part.first);
    last.addAll(part.last);
    problems.addAll(part.problems);
    notes.addAll(part.notes);
  }

  private int database(int node) {
    return database(tree, node);
  }

  /** The database a node is in; the server where there are none. */
  static int database(Tree tree, int node) {
    return Math.max(0, tree.enclosing(node, NodeKind.DATABASE));
  }

  private List<SafeColumn> columns(int table) {
    return SafeColumn.all(tree, table);
  }

  private Map<Integer, Integer> views(Map<Integer, TableSight> desired) {
    Map<Integer, Integer> found = new HashMap<>();
    for (int table : desired.keySet()) {
      String name = safeName(table);
      int view = tree.child(tree.parent(table), name, node -> true);
      if (view >= 0) {
        found.put(table, view);
      }
    }
    return found;
  }

  private String safeName(int table) {
    String name = tree.name(table);
    boolean upper = access.rules().fold("a").equals("A");
    boolean folded = upper && name.equals(access.rules().fold(name));
    return access.rules().names().with(name, folded ? access.rules().fold(SAFE) : SAFE);
  }

  private boolean natively() {
    return access.rules().has(HouseFact.FILTERS_ROWS);
  }

  private void show(
      int table,
      TableSight policies,
      Map<Integer, Integer> views,
      List<Tree.NewView> fresh,
      Map<Integer, ShownSafely> safe) {
    boolean throughView = !policies.masks().isEmpty() || !natively();
    if (natively()) {
      filter(table, policies.rows());
    }
    if (!throughView) {
      return;
    }
    if (!governed.node(table)) {
      problems.add(
          new Problem(
              null,
              tree.path(table)
                  + " is to be read only through a safe view, so its schema must stand under"
                  + " \"governs\": else who may read the table itself goes on doing so"));
    }
    String refused =
        access.rules().refusesSafeView(columns(table).stream().map(SafeColumn::name).toList());
    if (refused != null) {
      problems.add(new Problem(null, tree.path(table) + ": " + refused));
      return;
    }
    Integer view = views.get(table);
    Sights.Kept kept = view == null ? null : access.sights().kept().get(view);
    if (view != null && (kept == null || kept.table() != table)) {
      problems.add(
          new Problem(
              null,
              tree.path(view)
                  + " is there already and was not made from policies; rename it, so that "
                  + tree.path(table)
                  + " can be shown safely under that name"));
      return;
    }
    if (view == null) {
      fresh.add(new Tree.NewView(tree.parent(table), safeName(table), table));
      view = tree.size() + fresh.size() - 1;
    }
    safe.put(table, new ShownSafely(view, open(table, policies)));
    SafeView after = safeView(table, SightText.of(policies));
    if (kept == null) {
      first.add(new ShowSafely(null, after));
    } else if (!kept.asMade()
        || !kept.policies().equals(after.policies())
        || !sameColumns(table, view)) {
      first.add(new ShowSafely(safeView(table, kept.policies()), after));
    }
  }

  private boolean sameColumns(int table, int view) {
    boolean same = tree.columns(table) == tree.columns(view);
    for (int i = 0; same && i < tree.columns(table); i++) {
      same = tree.column(table, i).equals(tree.column(view, i));
    }
    return same;
  }

  private SafeView safeView(int table, String policies) {
    On on = Places.on(tree, table);
    List<String> parts = new ArrayList<>(on.parts());
    parts.set(parts.size() - 1, safeName(table));
    On view = new On(NodeKind.VIEW, on.database(), List.copyOf(parts));
    return new SafeView(view, on, columns(table), policies);
  }

  private void filter(int table, List<RowPolicy> wantedRows) {
    Sights.Kept kept = access.sights().kept().get(table);
    String before = kept == null ? "" : kept.policies();
    String after = SightText.of(new TableSight(wantedRows, List.of()));
    boolean altered = kept != null && !kept.asMade();
    if (!before.equals(after) || altered) {
      first.add(new FilterRows(Places.on(tree, table), columns(table), before, after));
    }
    Sights.Filter filter = access.sights().filters().get(table);
    for (Sights.Rule rule : filter == null ? List.<Sights.Rule>of() : filter.rules()) {
      boolean ours =
          before.contains("\t" + rule.name() + "\t")
              || !before.isEmpty() && rule.name().equals(SightSteps.OPEN_RULE);
      boolean known = access.sights().doubts().isEmpty();
      if (!ours && known && after.contains("\t" + rule.name() + "\t")) {
        problems.add(
            new Problem(
                null,
                tree.path(table)
                    + " has a row rule "
                    + rule.name()
                    + " that was not made from a charter; drop it, or give the policy another name"));
      } else if (!ours && !after.isEmpty()) {
        notes.add(
            tree.path(table)
                + " has the row rule "
                + rule.name()
                + ", which is not from the charter and goes on counting beside it");
      }
    }
  }

  /** What somebody else may have put there decides on nothing. */
  private void doubted(int database, Sights.Doubt doubt) {
    String where = database == 0 ? "" : " of database " + tree.name(database);
    String why = String.join("; ", doubt.why());
    problems.add(
        new Problem(
            null,
            doubt.foreign()
                ? "the schema fiador_guard"
                    + where
                    + " is not Fiador's own, so no policy can rest on it: "
                    + why
                    + ". Find out who made it, drop it, and survey again"
                : "what Fiador keeps in fiador_guard"
                    + where
                    + " could not be read, so policies cannot be compared: "
                    + why));
  }

  /** What was made from policies that are no longer there. */
  private void obsolete(Map<Integer, TableSight> desired) {
    access
        .sights()
        .kept()
        .forEach(
            (node, kept) -> {
              int table = kept.table();
              TableSight still = desired.get(table);
              boolean view = node != table;
              boolean needed =
                  still != null && (view ? !still.masks().isEmpty() || !natively() : natively());
              if (needed || !governed.node(table)) {
                return;
              }
              if (view) {
                last.add(new ShowSafely(safeView(table, kept.policies()), null));
              } else {
                last.add(
                    new FilterRows(Places.on(tree, table), columns(table), kept.policies(), ""));
              }
            });
  }
}
