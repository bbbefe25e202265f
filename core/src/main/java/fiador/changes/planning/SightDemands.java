package fiador.changes.planning;

import fiador.changes.wanted.CharterSubjects;
import fiador.changes.wanted.MaskChoice;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.changes.wanted.WantedSight;
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
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.policies.UnderName;
import fiador.predicates.Digits;
import fiador.predicates.Expression.Column;
import fiador.predicates.PredicateException;
import fiador.predicates.Typing;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

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
  private final Map<Integer, List<RowPolicy>> rows = new TreeMap<>();
  private final Map<Integer, List<Ranked>> masks = new TreeMap<>();
  private final Map<Integer, Integer> aside;
  private final Map<Integer, ViewPlace> places = new HashMap<>();

  private record Ranked(int rank, ColumnMask mask) {}

  SightDemands(Access access, Wanted wanted, UnaryOperator<String> stored) {
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.wanted = wanted;
    this.stored = stored;
    this.aside = UnderName.tables(access);
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
    Map<String, ColumnType> lookups = new HashMap<>();
    for (WantedSight.Lookup one : wanted.sight().lookups()) {
      Lookup.Found value = lookup.node(one.table() + "." + one.value(), 0, true);
      if (value.ok() && value.column() >= 0) {
        lookups.put(one.name(), tree.columnType(value.id(), value.column()));
      }
    }
    for (int table : tables(policy.on(), policy.place())) {
      List<SafeColumn> columns = SafeColumn.all(tree, table);
      Typing.Names names = SafeColumn.names(columns, lookups, access.rules()::fold);
      try {
        RowPolicy typed =
            new RowPolicy(
                policy.name(),
                policy.any(),
                policy.applies(),
                policy.exempts(),
                Typing.typed(policy.predicate(), renamed(names, policy.uses())));
        boolean orders = Typing.ordersTexts(typed.rows()) || Typing.ordersTexts(typed.applies());
        if (orders && !access.rules().has(HouseFact.ORDERS_TEXTS)) {
          throw new PredicateException(
              access.rules().kind() + " has no exact order of texts; =, <>, in and like work there",
              0);
        }
        String text = SightText.of(new TableSight(List.of(typed), List.of()));
        if (access.rules().lacksDates(text)) {
          throw new PredicateException(
              access.rules().kind()
                  + " has no days from 1582-10-05 to 1582-10-14, where its calendar changes",
              0);
        }
        int digits =
            Math.max(Digits.ofArithmetic(typed.rows()), Digits.ofArithmetic(typed.applies()));
        if (digits > access.rules().numbers().mostDigits()) {
          throw new PredicateException(
              access.rules().kind()
                  + " reckons with "
                  + access.rules().numbers().mostDigits()
                  + " digits at most, and this may come to "
                  + digits
                  + ": multiply fewer numbers",
              0);
        }
        place(table, policy.view(), policy.name(), policy.place());
        rows.computeIfAbsent(table, none -> new ArrayList<>()).add(RolesRenamed.in(typed, stored));
      } catch (PredicateException wrong) {
        Place at = policy.predicateAt();
        problems.add(
            new Problem(
                new Place(at.file(), at.line(), at.column() + wrong.at()),
                path(table) + ": " + wrong.getMessage()));
      }
    }
  }

  private static Typing.Names renamed(Typing.Names names, Map<String, String> uses) {
    return new Typing.Names() {
      @Override
      public Column column(String name) {
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
        } else if (aside.containsKey(table.id())) {
          found.add(aside.get(table.id()));
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
        int table = aside.getOrDefault(found.id(), found.id());
        String name = found.column() < 0 ? null : tree.column(found.id(), found.column());
        mask(policy, column, table, name == null ? -1 : tree.columnNamed(table, name));
      }
    }
  }

  /** A label on a table is one on all its columns. */
  private void mask(Masks policy, Labelled named, int table, int only) {
    if (tree.kind(table) != NodeKind.TABLE) {
      String what = tree.kind(table).text();
      problems.add(
          new Problem(
              named.place(), named.name() + " is a " + what + "; masks are on columns of tables"));
      return;
    }
    place(table, policy.view(), policy.name(), policy.place());
    for (int column = 0; column < tree.columns(table); column++) {
      if (only < 0 || only == column) {
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
          ColumnMask one =
              new ColumnMask(
                  policy.name(),
                  tree.column(table, column),
                  RolesRenamed.in(policy.applies(), stored),
                  mask);
          masks
              .computeIfAbsent(table, none -> new ArrayList<>())
              .add(new Ranked(policy.rank(), one));
        }
      }
    }
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
