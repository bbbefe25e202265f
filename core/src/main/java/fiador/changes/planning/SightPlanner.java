package fiador.changes.planning;

import fiador.changes.planning.ViewStands.Stand;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Places;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.grants.rules.HouseFact;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.policies.UnderName;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * What has to be done so that tables show the rows and columns that a charter's policies leave: on
 * servers that filter rows themselves by rules on the table; else, and for masks, by a view beside
 * the table, which takes over the table's readers. Cost: the policies times the tables they name.
 */
final class SightPlanner {
  private static final long WRITING =
      PrivilegeSet.of(Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE);

  private Access access;
  private Tree tree;
  private final Wanted wanted;
  private final Governed governed;
  private final boolean mayDrop;
  private final UnaryOperator<String> stored;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();
  private final List<Step> guarding = new ArrayList<>();
  private final List<Step> first = new ArrayList<>();
  private final List<Step> last = new ArrayList<>();
  private final TableMoves moves = new TableMoves(notes);

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
    notes.addAll(demands.notes());
    if (!desired.isEmpty() && !access.rules().has(HouseFact.KEEPS_POLICIES) && !veils()) {
      desired.keySet().forEach(this::notKept);
      return asItIs();
    }
    Set<Integer> databases = new LinkedHashSet<>();
    desired.keySet().forEach(table -> databases.add(veils() ? 0 : database(table)));
    GuardPlanner guards = new GuardPlanner(access, wanted, mayDrop, stored);
    databases.forEach(database -> take(guards.guarded(database)));
    ViewStands stands = new ViewStands(access, governed, wanted.sight().lookups(), problems, notes);
    Map<Integer, Stand> views = new LinkedHashMap<>();
    desired.forEach(
        (table, policies) -> {
          Stand stand =
              throughView(table, policies) ? stands.of(table, demands.underName(table)) : null;
          if (stand != null) {
            views.put(table, stand);
          }
        });
    // from here on with the views that are still to be made
    access = stands.access();
    tree = access.tree();
    Map<Integer, ShownSafely> safe = new HashMap<>();
    TableFilters filters = new TableFilters(access, first, problems, notes);
    desired.forEach(
        (table, policies) -> {
          if (veils() && !natively(table)) {
            filters.notOnViews(table);
          }
          if (natively(table)) {
            boolean all = veils();
            TableSight own = all ? policies : new TableSight(policies.rows(), List.of());
            filters.filter(table, columns(table), own);
          }
          if (views.containsKey(table)) {
            show(table, policies, stands, views.get(table), safe);
          }
        });
    obsolete(desired);
    last.addAll(moves.back());
    for (int database : access.sights().guards().keySet()) {
      boolean kept =
          access.sights().kept().values().stream()
              .anyMatch(each -> database(each.table()) == database && !governed.node(each.table()));
      if (!databases.contains(database) && !kept) {
        take(guards.unguarded(database));
      }
    }
    List<Step> all = new ArrayList<>(guarding);
    all.addAll(moves.aside());
    all.addAll(first);
    return new Result(access, safe, all, last, problems, notes);
  }

  /**
   * Policies that the charter says nothing about stay, and so do the views that stand for tables.
   */
  private void notKept(int table) {
    problems.add(
        new Problem(
            null,
            tree.path(table)
                + " is to be seen through policies, and how those are put on a server of kind "
                + access.rules().kind()
                + " is not known"));
  }

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
                boolean under = UnderName.is(access, node, kept);
                safe.put(kept.table(), shown(node, open(kept), under));
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
    boolean hides = !policies.rows().isEmpty() && !natively(table);
    boolean byColumn = (access.rules().columnPrivileges() & Privilege.SELECT.bit()) != 0;
    if (!hides && byColumn) {
      columns(table).forEach(column -> open.set(tree.columnNamed(table, column.name())));
      policies.masks().forEach(mask -> open.clear(tree.columnNamed(table, mask.column())));
    }
    return open;
  }

  private void take(GuardPlanner.Part part) {
    guarding.addAll(part.first);
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

  /** The columns that somebody made; those the server adds to every table are its own. */
  private List<SafeColumn> columns(int table) {
    Set<String> own = access.rules().systemColumns();
    return SafeColumn.all(tree, table).stream()
        .filter(column -> !own.contains(column.name()))
        .toList();
  }

  /** Whether the server hides rows in it itself. */
  private boolean natively(int table) {
    boolean filters = access.rules().has(HouseFact.FILTERS_ROWS) || veils();
    return filters && tree.kind(table) == NodeKind.TABLE;
  }

  /** Whether the server masks values in tables itself, too. */
  private boolean veils() {
    return access.rules().has(HouseFact.VEILS_TABLES);
  }

  private boolean throughView(int table, TableSight policies) {
    return !veils() && (!policies.masks().isEmpty() || !natively(table));
  }

  /** Lets a table be read through its view, and only through that. */
  private void show(
      int table,
      TableSight policies,
      ViewStands stands,
      Stand stand,
      Map<Integer, ShownSafely> safe) {
    safe.put(table, shown(stand.view(), open(table, policies), stand.underName()));
    SafeView after = safeView(table, stand, SightText.of(policies));
    if (stand.moves()) {
      Integer beside = stands.beside(table);
      Sights.Kept old = beside == null ? null : access.sights().kept().get(beside);
      SafeView made = old == null ? null : view(table, beside, old.policies(), false);
      moves.aside(access, table, stand.view(), made);
    }
    Sights.Kept kept = stand.kept();
    if (kept == null) {
      first.add(new ShowSafely(null, after));
    } else if (!kept.asMade()
        || !kept.policies().equals(after.policies())
        || !sameColumns(table, stand.view())) {
      first.add(new ShowSafely(safeView(table, stand, kept.policies()), after));
    }
    if (stand.leaving() >= 0) {
      end(table, stand.leaving(), stand.underName() ? null : after);
    }
  }

  /**
   * Ends a view, and gives its table its name back where the view has that.
   *
   * @param beside the view beside it from now on; null for none
   */
  private void end(int table, int view, @Nullable SafeView beside) {
    Sights.Kept kept = access.sights().kept().get(view);
    boolean under = UnderName.is(access, view, kept);
    last.add(new ShowSafely(view(table, view, kept.policies(), under), null));
    if (under) {
      moves.back(access, table, view, beside);
    }
  }

  private ShownSafely shown(int view, BitSet open, boolean underName) {
    long reading = Privilege.SELECT.bit();
    boolean writes = underName && access.rules().has(HouseFact.WRITES_THROUGH_VIEWS);
    long through = writes ? reading | WRITING : reading;
    boolean closes = writes && access.rules().has(HouseFact.WRITES_THROUGH_AS_MAKER);
    return closes
        ? new ShownSafely(view, new BitSet(), through, ~through, true)
        : new ShownSafely(view, open, through, ~reading, underName);
  }

  private boolean sameColumns(int table, int view) {
    List<String> shown = columns(view).stream().map(SafeColumn::name).toList();
    return columns(table).stream().map(SafeColumn::name).toList().equals(shown);
  }

  private SafeView safeView(int table, Stand stand, String policies) {
    return view(table, stand.view(), policies, stand.underName());
  }

  private SafeView view(int table, int view, String policies, boolean underName) {
    return new SafeView(
        Places.on(tree, view),
        Places.on(tree, table),
        columns(table),
        policies,
        underName,
        underName ? access.sights().fills().get(table) : null);
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
                  still != null && (view ? throughView(table, still) : natively(table));
              boolean ours = view || !kept.policies().isEmpty();
              if (needed || !ours || !governed.node(table)) {
                return;
              }
              if (view) {
                end(table, node, null);
              } else {
                last.add(
                    new FilterRows(Places.on(tree, table), columns(table), kept.policies(), ""));
              }
            });
  }
}
