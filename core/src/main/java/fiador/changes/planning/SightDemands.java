package fiador.changes.planning;

import fiador.changes.wanted.CharterSubjects;
import fiador.changes.wanted.MaskChoice;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.changes.wanted.WantedSight.Masks;
import fiador.changes.wanted.WantedSight.Rows;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.rules.HouseFact;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.RolesRenamed;
import fiador.policies.RowPolicy;
import fiador.policies.TableSight;
import fiador.policies.UnderName;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Or;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What the policies of a charter come to on the tables of a server: names are looked up, predicates
 * typed, and masks chosen by the types of the columns.
 */
final class SightDemands {
  private final Access access;
  private final Tree tree;
  private final Lookup lookup;
  private final Wanted wanted;
  private final UnaryOperator<String> stored;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();
  private final Map<Integer, List<RowPolicy>> rows = new TreeMap<>();
  private final Map<Integer, List<Ranked>> masks = new TreeMap<>();
  private final Map<Integer, Integer> aside;
  private final PolicyTargets targets;
  private final PredicateDemands predicates;

  /** By the policy and the table: many columns ask the same. */
  private final Map<String, Expression> clearings = new HashMap<>();

  private final Map<Integer, ViewPlace> places = new HashMap<>();

  private record Ranked(int rank, ColumnMask mask) {}

  SightDemands(Access access, Wanted wanted, UnaryOperator<String> stored) {
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.wanted = wanted;
    this.stored = stored;
    this.aside = UnderName.tables(access);
    this.targets = new PolicyTargets(access, wanted.sight().labels(), aside, problems);
    this.predicates =
        new PredicateDemands(access, wanted.sight().lookups(), this::path, problems, notes);
  }

  Set<String> notes() {
    return notes;
  }

  List<Problem> problems() {
    return problems;
  }

  /** What each table named by a policy is to show. */
  Map<Integer, TableSight> desired() {
    wanted.sight().rows().forEach(this::rows);
    wanted.sight().masks().forEach(this::masks);
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
      checkWriting(table, rows.getOrDefault(table, List.of()));
    }
    return found;
  }

  /** The name by which people know a table, whether or not it stands aside. */
  private String path(int table) {
    for (Map.Entry<Integer, Integer> each : aside.entrySet()) {
      if (each.getValue() == table) {
        return tree.path(each.getKey());
      }
    }
    return tree.path(table);
  }

  /** Whether the view of a table is to stand under its name. */
  boolean underName(int table) {
    return places.get(table) == ViewPlace.UNDER_NAME;
  }

  private void place(int table, ViewPlace place, String policy, Place at) {
    ViewPlace other = place == ViewPlace.UNSAID ? null : places.put(table, place);
    if (other != null && other != place) {
      problems.add(
          new Problem(
              at,
              policy
                  + " and another policy on "
                  + path(table)
                  + " name different places for its view: one view shows what all of them leave"));
    }
  }

  private void rows(Rows policy) {
    for (int table : targets.of(policy.on(), policy.place())) {
      Expression predicate =
          predicates.on(
              table,
              policy.predicate(),
              policy.predicateAt(),
              policy.uses(),
              new Or(List.of(policy.applies(), policy.exempts())));
      if (predicate != null) {
        RowPolicy typed =
            new RowPolicy(
                policy.name(),
                policy.any(),
                policy.applies(),
                policy.exempts(),
                predicate,
                policy.bindsWriting());
        if (policy.bindsWriting() && !bindsWriters(table)) {
          problems.add(new Problem(policy.place(), unbound(policy.name(), table)));
          continue;
        }
        place(table, policy.view(), policy.name(), policy.place());
        rows.computeIfAbsent(table, none -> new ArrayList<>()).add(RolesRenamed.in(typed, stored));
      }
    }
  }

  /** Whether the server can keep rows from being written at all. */
  private boolean bindsWriters(int table) {
    return access.rules().has(HouseFact.FILTERS_ROWS) && tree.kind(table) == NodeKind.TABLE;
  }

  private String unbound(String policy, int table) {
    String why =
        tree.kind(table) == NodeKind.TABLE
            ? access.rules().kind() + " keeps no rows from being written"
            : "it is a view, and rows are written to the tables under it";
    return policy + " cannot say may_write of " + path(table) + ": " + why;
  }

  /** Rows that one of several policies lets be written can be written, whatever the others say. */
  private void checkWriting(int table, List<RowPolicy> policies) {
    List<RowPolicy> any = policies.stream().filter(RowPolicy::any).toList();
    if (any.stream().map(RowPolicy::bindsWriting).distinct().count() > 1) {
      String names = any.stream().map(RowPolicy::name).collect(Collectors.joining(", "));
      problems.add(
          new Problem(
              null,
              path(table)
                  + ": of "
                  + names
                  + " some say \"may_write: same rows\" and some do not, and one that does not would let"
                  + " every row be written: say it of all of them, or \"combine: all\""));
    }
  }

  private void masks(Masks policy) {
    if (!predicates.fits(policy.applies(), policy.place())) {
      return;
    }
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
      } else if (tree.kind(found.id()).isObject()) {
        int table = targets.shown(found.id(), column.place(), "masks are on columns");
        String name = found.column() < 0 ? null : tree.column(found.id(), found.column());
        if (name != null && isServers(name)) {
          problems.add(
              new Problem(
                  column.place(),
                  path(found.id())
                      + "."
                      + name
                      + " is a column of the server itself: no mask can be put on it, and views"
                      + " that mask leave it out"));
        } else if (table >= 0 && isIn(schemas, table)) {
          mask(policy, table, name == null ? -1 : tree.columnNamed(table, name));
        }
      } else {
        for (int table : targets.tablesIn(found.id())) {
          if (isIn(schemas, table)) {
            mask(policy, table, -1);
          }
        }
      }
    }
  }

  private boolean isIn(Set<Integer> schemas, int table) {
    return schemas.isEmpty() || schemas.contains(tree.enclosing(table, NodeKind.SCHEMA));
  }

  /** Whether it is a column that the server adds to every table. */
  private boolean isServers(String column) {
    return access.rules().systemColumns().contains(column);
  }

  /** A label on a table, or on what it is in, is one on all its columns. */
  private void mask(Masks policy, int table, int only) {
    Expression clear = policy.clearWhere() == null ? Expression.FALSE : clearWhere(table, policy);
    if (clear == null) {
      return;
    }
    place(table, policy.view(), policy.name(), policy.place());
    for (int column = 0; column < tree.columns(table); column++) {
      boolean all = only < 0 && !isServers(tree.column(table, column));
      if (all || only == column) {
        ColumnType type = tree.columnType(table, column);
        Mask mask = MaskChoice.of(policy.byKind(), type);
        String path = path(table) + "." + tree.column(table, column);
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
        } else if (mask instanceof Mask.Digest && !access.rules().has(HouseFact.DIGESTS)) {
          problems.add(
              new Problem(
                  policy.place(),
                  access.rules().kind()
                      + " has no function for digests: mask "
                      + path
                      + " otherwise there"));
        } else {
          String name = tree.column(table, column);
          ColumnMask one = new ColumnMask(policy.name(), name, policy.applies(), clear, mask);
          masks
              .computeIfAbsent(table, none -> new ArrayList<>())
              .add(new Ranked(policy.rank(), RolesRenamed.in(one, stored)));
        }
      }
    }
  }

  /** In which rows of one table values are clear; null where that has mistakes. */
  private @Nullable Expression clearWhere(int table, Masks policy) {
    return clearings.computeIfAbsent(
        policy.name() + "\t" + table,
        none ->
            predicates.on(
                table,
                policy.clearWhere(),
                policy.clearWhereAt(),
                policy.uses(),
                policy.applies()));
  }

  /** Two masks of one rank for one user would be settled by chance. */
  private void conflicts(int table, List<Ranked> ranked) {
    Set<String> told = new LinkedHashSet<>();
    for (Ranked one : ranked) {
      for (Ranked other : ranked) {
        boolean same =
            one.rank() == other.rank()
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
                  path(table)
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
}
