package fiador.changes;

import fiador.changes.Plan.Problem;
import fiador.changes.Wanted.Every;
import fiador.changes.Wanted.Place;
import fiador.changes.Wanted.Single;
import fiador.changes.Wanted.Target;
import fiador.changes.WantedSight.Labelled;
import fiador.changes.WantedSight.Masks;
import fiador.changes.WantedSight.Rows;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.RolesRenamed;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.PredicateException;
import fiador.predicates.Typing;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
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
  private final Lookup lookup;
  private final Wanted wanted;
  private final Governed governed;
  private final UnaryOperator<String> stored;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();
  private final Map<Integer, List<RowPolicy>> rows = new TreeMap<>();
  private final Map<Integer, List<Ranked>> masks = new TreeMap<>();
  private final List<Step> first = new ArrayList<>();
  private final List<Step> last = new ArrayList<>();

  private record Ranked(int rank, ColumnMask mask) {}

  /**
   * What came of it.
   *
   * @param access the server with the views that are still to be made
   * @param safe the view that takes over a table's readers, by the table
   * @param first steps that come before grants
   * @param last steps that come after everything else
   */
  record Result(
      Access access,
      Map<Integer, Integer> safe,
      List<Step> first,
      List<Step> last,
      List<Problem> problems,
      Set<String> notes) {}

  SightPlanner(Access access, Wanted wanted, Governed governed, UnaryOperator<String> stored) {
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.wanted = wanted;
    this.governed = governed;
    this.stored = stored;
  }

  Result plan() {
    WantedSight sight = wanted.sight();
    if (!sight.decided()) {
      return asItIs();
    }
    sight.rows().forEach(this::rows);
    sight.masks().forEach(this::masks);
    Map<Integer, TableSight> desired = desired();
    Map<Integer, Integer> views = views(desired);
    Set<Integer> databases = new LinkedHashSet<>();
    desired.keySet().forEach(table -> databases.add(database(table)));
    databases.forEach(this::guarded);
    List<Tree.NewView> fresh = new ArrayList<>();
    Map<Integer, Integer> safe = new HashMap<>();
    desired.forEach((table, policies) -> show(table, policies, views, fresh, safe));
    obsolete(desired);
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
    Map<Integer, Integer> safe = new HashMap<>();
    access
        .sights()
        .kept()
        .forEach(
            (node, kept) -> {
              if (node != kept.table()) {
                safe.put(kept.table(), node);
              }
            });
    if (!access.sights().kept().isEmpty()) {
      notes.add(
          "the policies on the server are left alone, because the charter has none; row_policies: {}"
              + " in it takes them away");
    }
    return new Result(access, safe, first, last, problems, notes);
  }

  private int database(int node) {
    return Math.max(0, tree.enclosing(node, NodeKind.DATABASE));
  }

  private List<SafeColumn> columns(int table) {
    List<SafeColumn> found = new ArrayList<>();
    for (int i = 0; i < tree.columns(table); i++) {
      found.add(new SafeColumn(tree.column(table, i), tree.columnType(table, i)));
    }
    return List.copyOf(found);
  }

  private void rows(Rows policy) {
    Map<String, ColumnType> lookups = new HashMap<>();
    for (WantedSight.Lookup one : wanted.sight().lookups()) {
      Lookup.Found value = lookup.node(one.table() + "." + one.value(), 0, true);
      if (value.ok() && value.column() >= 0) {
        lookups.put(one.name(), tree.columnType(value.id(), value.column()));
      }
    }
    for (int table : tables(policy.on(), policy.place())) {
      List<SafeColumn> columns = columns(table);
      Typing.Names names = SafeColumn.names(columns, lookups, access.rules()::fold);
      try {
        RowPolicy typed =
            new RowPolicy(
                policy.name(),
                policy.any(),
                policy.applies(),
                policy.exempts(),
                Typing.typed(policy.predicate(), renamed(names, policy.uses())));
        rows.computeIfAbsent(table, none -> new ArrayList<>()).add(RolesRenamed.in(typed, stored));
      } catch (PredicateException wrong) {
        Place at = policy.predicateAt();
        problems.add(
            new Problem(
                new Place(at.file(), at.line(), at.column() + wrong.at()),
                tree.path(table) + ": " + wrong.getMessage()));
      }
    }
  }

  private static Typing.Names renamed(Typing.Names names, Map<String, String> uses) {
    return new Typing.Names() {
      @Override
      public fiador.predicates.Expression.Column column(String name) {
        return names.column(uses.getOrDefault(name, name));
      }

      @Override
      public ColumnType lookup(String name) {
        return names.lookup(name);
      }
    };
  }

  private List<Integer> tables(List<Target> targets, Place place) {
    List<Integer> found = new ArrayList<>();
    for (Target target : targets) {
      if (target instanceof Single single) {
        Lookup.Found table = lookup.node(single.name(), 0, false);
        if (!table.ok()) {
          problems.add(new Problem(place, table.problem()));
        } else if (tree.kind(table.id()) != NodeKind.TABLE) {
          problems.add(
              new Problem(
                  place,
                  single.name()
                      + " is a "
                      + tree.kind(table.id()).text()
                      + "; row policies are on tables"));
        } else {
          found.add(table.id());
        }
      } else if (target instanceof Every every) {
        Lookup.Found schema = lookup.node(every.container(), 0, false);
        if (!schema.ok()) {
          problems.add(new Problem(place, schema.problem()));
        } else {
          for (int child : tree.children().run(schema.id())) {
            if (tree.kind(child) == NodeKind.TABLE) {
              found.add(child);
            }
          }
        }
      }
    }
    return found;
  }

  private void masks(Masks policy) {
    List<Labelled> columns = new ArrayList<>(policy.columns());
    for (String label : policy.labels()) {
      columns.addAll(wanted.sight().labels().getOrDefault(label, List.of()));
    }
    Set<Integer> schemas = new LinkedHashSet<>();
    for (String schema : policy.schemas()) {
      Lookup.Found found = lookup.node(schema, 0, false);
      if (found.ok()) {
        schemas.add(found.id());
      } else {
        problems.add(new Problem(policy.place(), found.problem()));
      }
    }
    for (Labelled column : columns) {
      Lookup.Found found = lookup.node(column.name(), 0, true);
      if (!found.ok()) {
        problems.add(new Problem(column.place(), found.problem()));
      } else if (schemas.isEmpty()
          || schemas.contains(tree.enclosing(found.id(), NodeKind.SCHEMA))) {
        mask(policy, column, found);
      }
    }
  }

  /** A label on a table is one on all its columns. */
  private void mask(Masks policy, Labelled named, Lookup.Found found) {
    if (tree.kind(found.id()) != NodeKind.TABLE) {
      String what = tree.kind(found.id()).text();
      problems.add(
          new Problem(
              named.place(), named.name() + " is a " + what + "; masks are on columns of tables"));
      return;
    }
    for (int column = 0; column < tree.columns(found.id()); column++) {
      if (found.column() < 0 || found.column() == column) {
        ColumnType type = tree.columnType(found.id(), column);
        Mask mask = MaskChoice.of(policy.byKind(), type);
        String path = tree.path(found.id()) + "." + tree.column(found.id(), column);
        if (mask == null) {
          problems.add(
              new Problem(
                  policy.place(),
                  policy.name()
                      + " says nothing for "
                      + path
                      + ", which is "
                      + type.text()
                      + "; add \"otherwise\""));
        } else if (!mask.fits(type)) {
          problems.add(
              new Problem(
                  policy.place(),
                  mask.text() + " cannot mask " + path + ", which is " + type.text()));
        } else {
          ColumnMask one =
              new ColumnMask(
                  policy.name(),
                  tree.column(found.id(), column),
                  RolesRenamed.in(policy.applies(), stored),
                  mask);
          masks
              .computeIfAbsent(found.id(), none -> new ArrayList<>())
              .add(new Ranked(policy.rank(), one));
        }
      }
    }
  }

  private Map<Integer, TableSight> desired() {
    Map<Integer, TableSight> found = new TreeMap<>();
    Set<Integer> tables = new LinkedHashSet<>(rows.keySet());
    tables.addAll(masks.keySet());
    for (int table : tables) {
      List<Ranked> ranked = new ArrayList<>(masks.getOrDefault(table, List.of()));
      ranked.sort(Comparator.comparingInt(Ranked::rank));
      found.put(
          table,
          new TableSight(
              List.copyOf(rows.getOrDefault(table, List.of())),
              ranked.stream().map(Ranked::mask).toList()));
      conflicts(table, ranked);
    }
    return found;
  }

  /** Two masks of one rank for one user would be settled by chance. */
  private void conflicts(int table, List<Ranked> ranked) {
    Set<String> told = new LinkedHashSet<>();
    for (Ranked one : ranked) {
      for (Ranked other : ranked) {
        boolean same =
            one != other
                && one.rank() == other.rank()
                && one.mask().column().equals(other.mask().column())
                && one.mask().policy().compareTo(other.mask().policy()) < 0;
        String both =
            same
                ? new CharterSubjects(wanted, stored).firstWithBoth(one.mask(), other.mask())
                : null;
        if (both != null && told.add(one.mask().policy() + other.mask().policy())) {
          problems.add(
              new Problem(
                  null,
                  tree.path(table)
                      + "."
                      + one.mask().column()
                      + " is masked twice for "
                      + both
                      + ", by "
                      + one.mask().policy()
                      + " and "
                      + other.mask().policy()
                      + "; give one of them the lower rank"));
        }
      }
    }
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
    return name
        + (upper && name.equals(access.rules().fold(name)) ? access.rules().fold(SAFE) : SAFE);
  }

  private boolean natively() {
    return access.rules().filtersRows();
  }

  private void show(
      int table,
      TableSight policies,
      Map<Integer, Integer> views,
      List<Tree.NewView> fresh,
      Map<Integer, Integer> safe) {
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
    safe.put(table, view);
    SafeView after = safeView(table, SightText.of(policies));
    if (kept == null) {
      first.add(new Step.ShowSafely(null, after));
    } else if (!kept.asMade()
        || !kept.policies().equals(after.policies())
        || !sameColumns(table, view)) {
      first.add(new Step.ShowSafely(safeView(table, kept.policies()), after));
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
    Step.On on = Planner.on(tree, table);
    List<String> parts = new ArrayList<>(on.parts());
    parts.set(parts.size() - 1, safeName(table));
    Step.On view = new Step.On(NodeKind.VIEW, on.database(), List.copyOf(parts));
    return new SafeView(view, on, columns(table), policies);
  }

  private void filter(int table, List<RowPolicy> wantedRows) {
    Sights.Kept kept = access.sights().kept().get(table);
    String before = kept == null ? "" : kept.policies();
    String after = SightText.of(new TableSight(wantedRows, List.of()));
    boolean altered = kept != null && !kept.asMade();
    if (!before.equals(after) || altered) {
      first.add(new Step.FilterRows(Planner.on(tree, table), columns(table), before, after));
    }
    Sights.Filter filter = access.sights().filters().get(table);
    for (Sights.Rule rule : filter == null ? List.<Sights.Rule>of() : filter.rules()) {
      boolean ours =
          before.contains("\t" + rule.name() + "\t") || rule.name().equals("fiador open");
      if (!ours && !after.isEmpty()) {
        notes.add(
            tree.path(table)
                + " has the row rule "
                + rule.name()
                + ", which is not from the charter and goes on counting beside it");
      }
    }
  }

  /** The guarded schema with what policies need to know. */
  private void guarded(int database) {
    String name = database == 0 ? null : tree.name(database);
    if (access.rules().accounts() == fiador.grants.HouseRules.Accounts.BY_HOST) {
      anonymous();
    }
    if (!access.sights().guards().containsKey(database)) {
      first.add(new Step.Guard(name, true));
    }
    Map<String, Map<String, List<String>>> after = new LinkedHashMap<>();
    for (Wanted.Principal user : wanted.users()) {
      String key = new CharterSubjects(wanted, stored).key(user.name());
      Map<String, List<String>> values =
          new TreeMap<>(wanted.sight().attributes().getOrDefault(user.name(), Map.of()));
      if (!key.equals(user.name())) {
        values.put("name", List.of(user.name()));
      }
      after.put(key, values);
    }
    Map<String, Map<String, List<String>>> before = new LinkedHashMap<>();
    for (Sights.Attribute attribute : access.sights().attributes()) {
      if (attribute.database() == database) {
        before
            .computeIfAbsent(attribute.user(), none -> new TreeMap<>())
            .put(attribute.name(), attribute.values());
      }
    }
    after.forEach(
        (user, values) -> {
          Map<String, List<String>> old = before.getOrDefault(user, Map.of());
          Set<String> names = new LinkedHashSet<>(values.keySet());
          names.addAll(old.keySet());
          for (String attribute : names) {
            List<String> was = old.getOrDefault(attribute, List.of());
            List<String> is = values.getOrDefault(attribute, List.of());
            if (!Set.copyOf(was).equals(Set.copyOf(is))) {
              first.add(new Step.SetAttribute(name, user, attribute, was, is));
            }
          }
        });
    lookups(database, name);
  }

  /** Whoever comes in anonymously names himself, and would have the attributes of that name. */
  private void anonymous() {
    for (int id = 0; id < access.principals().size(); id++) {
      boolean nameless =
          access.principals().isUser(id) && access.principals().name(id).startsWith("@");
      if (nameless && !access.principals().account(id).disabled()) {
        problems.add(
            new Problem(
                null,
                "the anonymous account "
                    + access.principals().name(id)
                    + " lets anybody come in under any name, so no policy could rely on names: drop"
                    + " it first"));
      }
    }
  }

  private void lookups(int database, String name) {
    for (WantedSight.Lookup one : wanted.sight().lookups()) {
      Lookup.Found key = lookup.node(one.table() + "." + one.key(), 0, true);
      Lookup.Found value = lookup.node(one.table() + "." + one.value(), 0, true);
      for (Lookup.Found found : List.of(key, value)) {
        if (!found.ok() || found.column() < 0) {
          String why = found.ok() ? one.table() + " has no such column" : found.problem();
          problems.add(new Problem(one.place(), why));
        }
      }
      if (!key.ok() || !value.ok() || database(key.id()) != database) {
        continue;
      }
      Step.LookupTable after =
          new Step.LookupTable(
              one.name(),
              Planner.on(tree, key.id()),
              columns(key.id()).get(key.column()),
              columns(value.id()).get(value.column()));
      Step.LookupTable before = null;
      for (Sights.LookupTable known : access.sights().lookups()) {
        if (known.database() == database && known.name().equals(one.name())) {
          before = SightSteps.lookupTable(tree, known);
        }
      }
      if (!Objects.equals(before, after)) {
        first.add(new Step.DefineLookup(name, before, after));
      }
    }
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
                last.add(new Step.ShowSafely(safeView(table, kept.policies()), null));
              } else {
                last.add(
                    new Step.FilterRows(
                        Planner.on(tree, table), columns(table), kept.policies(), ""));
              }
            });
  }
}
