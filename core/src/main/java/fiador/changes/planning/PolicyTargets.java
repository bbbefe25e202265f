package fiador.changes.planning;

import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Finds the tables and views that policies are on: by name, in a container, or with a label. */
final class PolicyTargets {
  private final Access access;
  private final Tree tree;
  private final Lookup lookup;
  private final Map<String, List<Labelled>> labels;
  private final Map<Integer, Integer> aside;
  private final List<Problem> problems;

  /**
   * @param aside the tables that stand aside, by the views that have their names
   * @param problems where mistakes are told
   */
  PolicyTargets(
      Access access,
      Map<String, List<Labelled>> labels,
      Map<Integer, Integer> aside,
      List<Problem> problems) {
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.labels = labels;
    this.aside = aside;
    this.problems = problems;
  }

  /** The tables and views that some targets name. */
  Set<Integer> of(List<Target> targets, Place place) {
    Set<Integer> found = new LinkedHashSet<>();
    for (Target target : targets) {
      if (target instanceof Single single) {
        int shown = named(single.name(), place, "row policies are on tables and views");
        if (shown >= 0) {
          found.add(shown);
        }
      } else if (target instanceof Every every) {
        found.addAll(every(every, place));
      }
    }
    return found;
  }

  /** The table or view of that name; below zero where there is none that can have policies. */
  private int named(String name, Place place, String whereThey) {
    Lookup.Found found = lookup.node(name, 0, false);
    if (!found.ok()) {
      problems.add(new Problem(place, found.problem()));
      return None.NODE;
    }
    return shown(found.id(), place, whereThey);
  }

  /**
   * The table that is meant by a node, if it can have policies.
   *
   * @param whereThey what is said of other kinds of things
   * @return below zero where it cannot, and then there is a problem
   */
  int shown(int node, Place place, String whereThey) {
    int meant = aside.getOrDefault(node, node);
    NodeKind kind = tree.kind(meant);
    boolean view = kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
    if (view && access.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER)) {
      problems.add(
          new Problem(
              place,
              tree.path(meant)
                  + " is a view, and on "
                  + access.rules().kind()
                  + " whoever may change it would have it run with the rights of who settles: put the"
                  + " policy on the tables it reads"));
      return None.NODE;
    } else if (view && access.sights().kept().containsKey(meant)) {
      int table = access.sights().kept().get(meant).table();
      problems.add(
          new Problem(
              place,
              tree.path(meant) + " was made from policies itself: name " + tree.path(table)));
      return None.NODE;
    } else if (!view && kind != NodeKind.TABLE) {
      problems.add(
          new Problem(place, tree.path(meant) + " is a " + kind.text() + "; " + whereThey));
      return None.NODE;
    }
    return meant;
  }

  /** The tables in a container, with a label, or both. */
  private Set<Integer> every(Every every, Place place) {
    Set<Integer> inside = null;
    if (every.container() != null) {
      Lookup.Found found = lookup.node(every.container(), 0, false);
      if (!found.ok()) {
        problems.add(new Problem(place, found.problem()));
        return Set.of();
      }
      inside = tablesIn(found.id());
    }
    if (every.label() == null) {
      return inside == null ? Set.of() : inside;
    }
    Set<Integer> labelled = new LinkedHashSet<>();
    for (Labelled carrier : labels.getOrDefault(every.label(), List.of())) {
      Lookup.Found found = lookup.node(carrier.name(), 0, true);
      if (!found.ok()) {
        problems.add(new Problem(carrier.place(), found.problem()));
      } else if (found.column() < 0) {
        labelled.addAll(tablesIn(aside.getOrDefault(found.id(), found.id())));
      }
    }
    if (inside != null) {
      labelled.retainAll(inside);
    }
    return labelled;
  }

  /** The tables in a container, at any depth; of a table itself. */
  Set<Integer> tablesIn(int container) {
    Set<Integer> found = new LinkedHashSet<>();
    IntArrayList open = IntArrayList.of(container);
    for (int i = 0; i < open.size(); i++) {
      int node = open.getInt(i);
      if (tree.kind(node) == NodeKind.TABLE && !tree.isSystem(node)) {
        found.add(node);
      }
      for (int child : tree.children().run(node)) {
        open.add(child);
      }
    }
    return found;
  }
}
