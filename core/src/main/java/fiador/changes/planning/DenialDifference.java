package fiador.changes.planning;

import fiador.changes.steps.Deny;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Rights;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.util.Collection;
import java.util.List;
import java.util.Map;

/**
 * Denials that are wanted and not there, where a kind of server has such. Those that are there and
 * not wanted stay: taking one away would open something.
 */
final class DenialDifference {
  private final Access access;
  private final Tree tree;
  private final Collection<Step> give;

  DenialDifference(Access access, Collection<Step> give) {
    this.access = access;
    this.tree = access.tree();
    this.give = give;
  }

  /** Adds what has to be denied. Cost: what is wanted, and the denials on each of its nodes. */
  void compare(Demands wanted) {
    if (!access.rules().has(HouseFact.DENIALS)) {
      return;
    }
    wanted
        .rights()
        .forEach((who, byNode) -> byNode.forEach((node, rights) -> add(who, node, rights)));
  }

  private void add(String who, int node, Rights wanted) {
    Rights there = Rights.denied(access, access.principals().named(who), node);
    long whole = wanted.whole & ~there.whole;
    if (whole != 0) {
      give.add(new Deny(whole, Places.on(tree, node), List.of(), who, false));
    }
    Map<List<Integer>, Long> byColumns =
        Rights.byColumns(
            wanted.columns.keySet(),
            column -> wanted.on(column) & ~there.on(column) & ~there.whole & ~whole);
    byColumns.forEach(
        (columns, privileges) ->
            give.add(
                new Deny(
                    privileges,
                    Places.on(tree, node),
                    columns.stream().map(column -> tree.column(node, column)).toList(),
                    who,
                    false)));
  }
}
