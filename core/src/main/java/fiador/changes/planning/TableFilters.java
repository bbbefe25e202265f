package fiador.changes.planning;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Places;
import fiador.changes.steps.SightSteps;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import java.util.List;
import java.util.Set;

/** What is to be done where the server itself hides rows of a table, or values too. */
final class TableFilters {
  private final Access access;
  private final Tree tree;
  private final List<Step> steps;
  private final List<Problem> problems;
  private final Set<String> notes;

  /** Adds what comes of it to these. */
  TableFilters(Access access, List<Step> steps, List<Problem> problems, Set<String> notes) {
    this.access = access;
    this.tree = access.tree();
    this.steps = steps;
    this.problems = problems;
    this.notes = notes;
  }

  /** Policies on something that is no table, on a server that has them on tables alone. */
  void notOnViews(int view) {
    problems.add(
        new Problem(
            null,
            tree.path(view)
                + " is a view, and a server of kind "
                + access.rules().kind()
                + " has policies on tables alone: put them on the tables it reads"));
  }

  /** Has a table filtered by its policies. */
  void filter(int table, List<SafeColumn> columns, TableSight policies) {
    Sights.Kept kept = access.sights().kept().get(table);
    if (kept != null && kept.policies().isEmpty() && !kept.asMade()) {
      problems.add(
          new Problem(
              null,
              tree.path(table)
                  + " has a rule about rows or values that was not made from a charter; take it off"
                  + " first"));
      return;
    }
    String before = kept == null ? "" : kept.policies();
    String after = SightText.of(policies);
    boolean altered = kept != null && !kept.asMade();
    if (!before.equals(after) || altered) {
      steps.add(new FilterRows(Places.on(tree, table), columns, before, after));
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
}
