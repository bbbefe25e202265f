package fiador.history;

import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Reach;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import java.util.HashSet;
import java.util.Set;

/**
 * Which changes may matter to what one user or role holds. Goes back in time: whom they act through
 * is known in the state after a change, and before it was the same unless the change was about one
 * of those. It may say yes where nothing comes of it, and never no where something does. Cost: of a
 * state, the nodes and the grants of the roles held; of a change, the names it is about.
 */
public final class Concern {
  private final String name;
  private final Set<String> through = new HashSet<>();
  private boolean broad;
  private boolean anything;

  /** Of that user or role. */
  public Concern(String name) {
    this.name = name;
  }

  /** Looks at the state after the changes that are asked about next. */
  public void in(Access state) {
    through.clear();
    through.add(name);
    // who counts for whom is more than memberships there, or changes by itself
    anything = state.accounts() != null || state.rules().has(HouseFact.ENFORCES_TIME);
    broad = false;
    Reach reach = new Reach(state);
    add(state, reach, Principals.PUBLIC, true);
    int who = state.principals().named(name);
    if (who >= 0) {
      add(state, reach, who, true);
    }
    boolean views = state.rules().looksUnderViews() && state.reads().under().size() > 0;
    if (views || state.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER)) {
      addOwnersOfViews(state, reach);
    }
  }

  private void add(Access state, Reach reach, int principal, boolean theirs) {
    for (int each : reach.up(principal)) {
      boolean fresh = through.add(state.principals().name(each)) || each == principal;
      if (theirs && fresh) {
        broad |= state.principals().powers(each) != 0 || hasFromAbove(state, each);
      }
    }
  }

  /** Whether things come to somebody that nobody gives them one by one. */
  private static boolean hasFromAbove(Access state, int principal) {
    boolean schemas =
        state.rules().ownership() == Ownership.SCHEMA
            && state.tree().owned().from(principal) < state.tree().owned().to(principal);
    if (schemas) {
      return true;
    }
    Grants grants = state.grants();
    for (int row : grants.byGrantee().run(principal)) {
      if (grants.terms(row).covers() != 0) {
        return true;
      }
    }
    return false;
  }

  /** What they may read decides on who can read their views. */
  private void addOwnersOfViews(Access state, Reach reach) {
    Set<Integer> known = new HashSet<>();
    for (int node = 0; node < state.tree().size(); node++) {
      NodeKind kind = state.tree().kind(node);
      if (kind == NodeKind.VIEW || kind == NodeKind.ROUTINE) {
        int schema = state.tree().enclosing(node, NodeKind.SCHEMA);
        int own = state.tree().owner(node);
        int owner = own < 0 && schema >= 0 ? state.tree().owner(schema) : own;
        if (owner >= 0 && known.add(owner)) {
          add(state, reach, owner, false);
        }
      }
    }
  }

  /** Whether a change that led to this state may matter. */
  public boolean mayBe(Touched change) {
    if (anything || change.all() || broad && change.things()) {
      return true;
    }
    for (String each : change.names()) {
      if (through.contains(each)) {
        return true;
      }
    }
    return false;
  }
}
