package fiador.changes.planning;

import fiador.changes.steps.LetIn;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;

/**
 * Lets givers in who have lost the way into a schema, where only they can take what they once gave
 * there. Cost: what those givers hold.
 */
final class LettingIn {
  private final Access access;
  private final Tree tree;
  private final Clock clock;
  private Holdings holdings;

  /**
   * @param access the server when the first of the takes is carried out
   */
  LettingIn(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.clock = clock;
  }

  /** Whether only its giver can take what a step takes. */
  static boolean isByGiver(Step step) {
    return step.about().grantor() != null && step.on() != null && !(step instanceof LetIn);
  }

  /** The same steps, those that need it with the way in. */
  List<Step> through(List<Step> takes) {
    if (!access.rules().has(HouseFact.GRANTORS_COUNT)) {
      return takes;
    }
    List<Step> through = new ArrayList<>();
    for (Step step : takes) {
      boolean byGiver = isByGiver(step);
      through.add(byGiver ? through(step, step.on(), step.about().grantor()) : step);
    }
    return through;
  }

  private Step through(Step step, On on, String giver) {
    int node = Places.find(tree, on);
    int schema = node < 0 ? -1 : tree.enclosing(node, NodeKind.SCHEMA);
    boolean inside = schema >= 0 && schema != node;
    return inside && !mayEnter(access.principals().named(giver), schema)
        ? new LetIn(step, Places.on(tree, schema), giver)
        : step;
  }

  private boolean mayEnter(int giver, int schema) {
    if (giver < 0 || access.principals().has(giver, Power.SUPERUSER)) {
      return true;
    }
    if (holdings == null) {
      holdings = new Holdings(access, clock, false);
    }
    return holdings.at(giver, schema).stream()
        .anyMatch(row -> row.privilege() == Privilege.USAGE && row.state() == State.LIVE);
  }
}
