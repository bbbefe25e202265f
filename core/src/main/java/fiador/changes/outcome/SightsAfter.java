package fiador.changes.outcome;

import fiador.changes.steps.Places;
import fiador.changes.steps.SafeView;
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
import fiador.grants.Sights.LookupTable;
import fiador.policies.RowPolicy;
import fiador.policies.SightText;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What decides on rows and columns after some steps. Cost: what decides, and the steps. */
final class SightsAfter {
  private final Tree tree;
  private final Map<Integer, Kept> kept;
  private final Map<Integer, Filter> filters;
  private final Map<List<Object>, Attribute> attributes = new LinkedHashMap<>();
  private final Map<List<Object>, LookupTable> lookups = new LinkedHashMap<>();

  private SightsAfter(Access base) {
    this.tree = base.tree();
    this.kept = new HashMap<>(base.sights().kept());
    this.filters = new HashMap<>(base.sights().filters());
    for (Attribute each : base.sights().attributes()) {
      attributes.put(List.of(each.database(), each.user(), each.name()), each);
    }
    for (LookupTable each : base.sights().lookups()) {
      lookups.put(List.of(each.database(), each.name()), each);
    }
  }

  /** Works in those of the steps that are about rows and columns. */
  static Sights of(Access base, List<Step> steps) {
    if (steps.stream().noneMatch(SightSteps::isAbout)) {
      return base.sights();
    }
    SightsAfter after = new SightsAfter(base);
    steps.forEach(after::apply);
    Sights before = base.sights();
    return new Sights(
        Map.copyOf(after.kept),
        Map.copyOf(after.filters),
        List.copyOf(after.attributes.values()),
        List.copyOf(after.lookups.values()),
        before.guards(),
        before.doubts(),
        before.seals());
  }

  private void apply(Step step) {
    if (step instanceof Step.SetAttribute set) {
      int database = database(set.database());
      List<Object> key = List.of(database, set.user(), set.attribute());
      if (set.after().isEmpty()) {
        attributes.remove(key);
      } else {
        attributes.put(key, new Attribute(database, set.user(), set.attribute(), set.after()));
      }
    } else if (step instanceof Step.DefineLookup define) {
      define(define);
    } else if (step instanceof Step.ShowSafely show) {
      SafeView view = show.after() == null ? show.before() : show.after();
      int node = Places.find(tree, view.view());
      if (show.after() == null) {
        kept.remove(node);
      } else {
        kept.put(node, new Kept(Places.find(tree, view.table()), view.policies(), true));
      }
    } else if (step instanceof Step.FilterRows filter) {
      filter(filter);
    }
  }

  private void define(Step.DefineLookup define) {
    int database = database(define.database());
    Step.LookupTable after = define.after();
    if (after == null) {
      lookups.remove(List.<Object>of(database, define.before().name()));
    } else {
      int table = Places.find(tree, after.table());
      lookups.put(
          List.of(database, after.name()),
          new LookupTable(
              database, after.name(), table, after.key().name(), after.value().name(), true));
    }
  }

  /** Rules that somebody wrote himself stay; those of policies are as the policies say. */
  private void filter(Step.FilterRows filter) {
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
