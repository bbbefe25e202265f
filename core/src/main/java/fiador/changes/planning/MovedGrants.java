package fiador.changes.planning;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Grant;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Where grants stay with a table's name, whoever gives it another has to give them anew: tells each
 * step that does so which there are by then. Cost: for each of them the outcome of the steps before
 * it.
 */
final class MovedGrants {
  private MovedGrants() {}

  /** The steps; the estate knows the tables by the names they have while they stand aside. */
  static List<Step> in(Access before, List<Step> steps) {
    if (!before.rules().has(HouseFact.GRANTS_STAY_WITH_NAMES)) {
      return steps;
    }
    List<Step> told = new ArrayList<>();
    for (Step step : steps) {
      if (step instanceof MoveTable move) {
        Access then = told.isEmpty() ? before : Outcome.of(before, told).after();
        On aside = move.aside() ? move.to() : move.from();
        List<Grant> given = given(then, Places.node(then.tree(), aside), move.to());
        told.add(new MoveTable(move.from(), move.to(), move.aside(), move.beside(), given));
      } else {
        told.add(step);
      }
    }
    return told;
  }

  private static List<Grant> given(Access access, int node, On on) {
    List<Grant> found = new ArrayList<>();
    Grants grants = access.grants();
    for (int row : grants.byNode().run(node)) {
      Terms terms = grants.terms(row);
      if (!terms.isByName()) {
        continue;
      }
      String grantee = access.principals().name(grants.grantee(row));
      int set = grants.columns(row);
      List<String> columns =
          set == ColumnSets.WHOLE
              ? List.of()
              : IntStream.of(access.columnSets().ordinals(set))
                  .mapToObj(column -> access.tree().column(node, column))
                  .toList();
      boolean option = terms.grantable() != 0;
      if (terms.privileges() != 0) {
        found.add(new Grant(terms.privileges(), on, columns, grantee, option));
      }
    }
    return found;
  }
}
