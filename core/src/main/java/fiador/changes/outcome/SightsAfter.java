package fiador.changes.outcome;

import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LookupTable;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.Places;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightCases;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.SightSteps;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.grants.Sights.Attribute;
import fiador.grants.Sights.Filter;
import fiador.grants.Sights.Kept;
import fiador.policies.RowPolicy;
import fiador.policies.SightText;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What decides on rows and columns after some steps. Cost: what decides, and the steps. */
final class SightsAfter implements SightCases<Void> {
  private final Tree tree;
  private final Map<Integer, Kept> kept;
  private final Map<Integer, Filter> filters;
  private final Map<List<Object>, Attribute> attributes = new LinkedHashMap<>();
  private final Map<List<Object>, Sights.LookupTable> lookups = new LinkedHashMap<>();

  private SightsAfter(Access base) {
    this.tree = base.tree();
    this.kept = new HashMap<>(base.sights().kept());
    this.filters = new HashMap<>(base.sights().filters());
    for (Attribute each : base.sights().attributes()) {
      attributes.put(List.of(each.database(), each.user(), each.name()), each);
    }
    for (Sights.LookupTable each : base.sights().lookups()) {
      lookups.put(List.of(each.database(), each.name()), each);
    }
  }

  /** Works in those of the steps that are about rows and columns. */
  static Sights of(Access base, List<Step> steps) {
    List<SightStep> some =
        steps.stream().filter(SightStep.class::isInstance).map(SightStep.class::cast).toList();
    if (some.isEmpty()) {
      return base.sights();
    }
    SightsAfter after = new SightsAfter(base);
    some.forEach(step -> step.matchSight(after));
    Sights before = base.sights();
    return new Sights(
        Map.copyOf(after.kept),
        Map.copyOf(after.filters),
        List.copyOf(after.attributes.values()),
        List.copyOf(after.lookups.values()),
        before.guards(),
        before.doubts(),
        before.seals(),
        before.fills());
  }

  @Override
  public Void guard(Guard step) {
    // that there is one shows nobody anything
    return null;
  }

  @Override
  public Void setAttribute(SetAttribute step) {
    int database = database(step.database());
    List<Object> key = List.of(database, step.user(), step.attribute());
    if (step.after().isEmpty()) {
      attributes.remove(key);
    } else {
      attributes.put(key, new Attribute(database, step.user(), step.attribute(), step.after()));
    }
    return null;
  }

  @Override
  public Void showSafely(ShowSafely step) {
    SafeView view = step.either();
    int node = Places.find(tree, view.view());
    if (step.after() == null) {
      kept.remove(node);
    } else {
      kept.put(node, new Kept(Places.find(tree, view.table()), view.policies(), true));
    }
    return null;
  }

  @Override
  public Void defineLookup(DefineLookup step) {
    define(step);
    return null;
  }

  @Override
  public Void filterRows(FilterRows step) {
    filter(step);
    return null;
  }

  @Override
  public Void moveTable(MoveTable step) {
    // a name decides on nothing; steps that are compared know the table by its new one
    return null;
  }

  private void define(DefineLookup define) {
    int database = database(define.database());
    LookupTable after = define.after();
    if (after == null) {
      lookups.remove(List.<Object>of(database, define.before().name()));
    } else {
      int table = Places.find(tree, after.table());
      lookups.put(
          List.of(database, after.name()),
          new Sights.LookupTable(
              database,
              after.name(),
              table,
              after.key().name(),
              after.keys(),
              after.value().name(),
              true));
    }
  }

  /** Rules that somebody wrote themselves stay; those of policies are as the policies say. */
  private void filter(FilterRows filter) {
    int table = Places.find(tree, filter.table());
    Filter old = filters.getOrDefault(table, new Filter(false, false, List.of()));
    List<Sights.Rule> others = new ArrayList<>();
    for (Sights.Rule rule : old.rules()) {
      boolean opens = rule.name().equals(SightSteps.OPEN_RULE) && !filter.before().isEmpty();
      if (!opens && !filter.before().contains("\t" + rule.name() + "\t")) {
        others.add(rule);
      }
    }
    boolean ends = filter.after().isEmpty();
    List<RowPolicy> rows = SightText.read(filter.after(), filter.columns()).rows();
    if (!ends && rows.stream().noneMatch(RowPolicy::any)) {
      others.add(
          new Sights.Rule(
              SightSteps.OPEN_RULE,
              true,
              Privilege.SELECT.bit(),
              List.of(Principals.PUBLIC),
              "true",
              "true"));
    }
    filters.put(table, new Filter(!ends || !others.isEmpty(), old.forced(), others));
    if (ends) {
      kept.remove(table);
    } else {
      kept.put(table, new Kept(table, filter.after(), true));
    }
  }

  private int database(String name) {
    return name == null ? 0 : tree.child(0, name, node -> tree.kind(node) == NodeKind.DATABASE);
  }
}
