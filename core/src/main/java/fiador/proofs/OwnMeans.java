package fiador.proofs;

import fiador.climb.Climb;
import fiador.effects.Insiders;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Memberships;
import fiador.grants.Reach;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntLinkedOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.ArrayList;
import java.util.List;

/**
 * What people could do by themselves towards a goal: who has something to do with it, and which
 * roles and rights that lead there somebody may give. Cost: the grants on what has to do with the
 * goal, and the memberships below those who have them.
 */
final class OwnMeans {
  private static final int DEEPEST = 64;
  private static final long UNDER_VIEWS = PrivilegeSet.of(Privilege.SELECT, Privilege.EXECUTE);

  private final Access access;
  private final Tree tree;
  private final Memberships memberships;
  private final Goal goal;
  private final Insiders insiders;
  private final IntLinkedOpenHashSet nodes = new IntLinkedOpenHashSet();
  private final IntLinkedOpenHashSet sources = new IntLinkedOpenHashSet();
  private final IntOpenHashSet below = new IntOpenHashSet();

  OwnMeans(Access access, Goal goal) {
    this.access = access;
    this.tree = access.tree();
    this.memberships = access.memberships();
    this.goal = goal;
    this.insiders = new Insiders(access);
    addNodes(goal.node(), 0);
    nodes.forEach(this::addSources);
    for (int principal : access.principals().powerful()) {
      sources.add(principal);
    }
    sources.remove(Principals.PUBLIC);
    addBelow();
  }

  private void addNodes(int node, int depth) {
    for (int at = node; at >= 0; at = tree.parent(at)) {
      nodes.add(at);
    }
    var rows = access.reads().byView();
    for (int place = rows.from(node); depth < DEEPEST && place < rows.to(node); place++) {
      int under = access.reads().under().get(rows.row(place));
      if (!nodes.contains(under)) {
        addNodes(under, depth + 1);
      }
    }
  }

  private void addSources(int node) {
    Grants grants = access.grants();
    long wanted = wanted(node);
    for (int row : grants.byNode().run(node)) {
      if ((grants.terms(row).privileges() & wanted) != 0) {
        sources.add(grants.grantee(row));
      }
    }
    if (tree.owner(node) >= 0) {
      sources.add(tree.owner(node));
    }
  }

  private void addBelow() {
    IntArrayList open = new IntArrayList(sources);
    below.addAll(sources);
    while (!open.isEmpty()) {
      for (int edge : memberships.membersOf().run(open.popInt())) {
        if (below.add(memberships.member(edge))) {
          open.add(memberships.member(edge));
        }
      }
    }
  }

  /** The privileges on a node that have to do with the goal. */
  private long wanted(int node) {
    long wanted = goal.privilege().bit() | UNDER_VIEWS;
    for (Gate gate : access.rules().gates()) {
      wanted |= gate.container() == tree.kind(node) ? gate.privilege().bit() : 0;
    }
    return access.rules().has(HouseFact.RIGHTS_BY_NAME) ? wanted | Moving.TAKES : wanted;
  }

  /**
   * Everybody who may give themselves a role that leads there gives it to themselves; for those who
   * can switch to somebody who may it is enough that the latter does.
   */
  List<Rung.Gives> rolesForThemselves() {
    List<Rung.Gives> found = new ArrayList<>();
    Reach inherited = new Reach(access, edge -> memberships.options(edge).inherit());
    Reach switched = new Reach(access, edge -> memberships.options(edge).set());
    for (int role : below) {
      for (int edge : memberships.membersOf().run(role)) {
        int member = memberships.member(edge);
        boolean mine = memberships.options(edge).admin() && member != role;
        if (mine && !access.principals().has(role, Power.SUPERUSER)) {
          found.add(new Rung.Gives(member, role, member));
          for (int other : inherited.below(member)) {
            if (!switched.holds(other, member)) {
              found.add(new Rung.Gives(member, role, other));
            }
          }
        }
      }
    }
    if (access.rules().has(HouseFact.MANAGERS_TAKE_ANY_ROLE)) {
      addManagers(found);
    }
    return found;
  }

  private void addManagers(List<Rung.Gives> found) {
    for (int manager : access.principals().powerful()) {
      if (access.principals().has(manager, Power.MANAGE_ROLES)) {
        for (int role : below) {
          if (role != manager && !access.isSuperuser(role) && !insiders.isBeyond(manager, role)) {
            found.add(new Rung.Gives(manager, role, manager));
          }
        }
      }
    }
  }

  /** Owners who have not all that owners can grant grant it to themselves. */
  List<Rung.Grants> rightsForOwners() {
    List<Rung.Grants> found = new ArrayList<>();
    for (int node : nodes) {
      long withheld = tree.withheld(node) & onThat(node);
      int owner = tree.owner(node);
      if (owner > Principals.PUBLIC
          && withheld != 0
          && access.rules().ownership() != Ownership.NONE) {
        found.add(new Rung.Grants(owner, withheld, node, owner, true));
      }
    }
    return found;
  }

  private long onThat(int node) {
    return wanted(node) & access.rules().privilegesOn(tree.kind(node));
  }

  /**
   * The roles towards the goal that somebody may give, and has not to give itself first.
   *
   * @param acts all whom it can act as
   * @param to to whom it gives them
   */
  List<Rung> rolesToGive(IntSet acts, int to) {
    List<Rung> found = new ArrayList<>();
    Reach reach = new Reach(access);
    for (int as : acts) {
      for (int edge : memberships.rolesOf().run(as)) {
        int role = memberships.role(edge);
        boolean mine =
            memberships.options(edge).admin() && !access.principals().has(role, Power.SUPERUSER);
        if (mine && below.contains(role) && !reach.holds(role, to)) {
          found.add(new Rung.Gives(as, role, to));
        }
      }
    }
    return found;
  }

  /**
   * The rights towards the goal that somebody may grant to others.
   *
   * @param acts all whom it can act as
   * @param to to whom it grants them
   */
  List<Rung> rightsToGive(IntSet acts, int to) {
    List<Rung> found = new ArrayList<>();
    Grants grants = access.grants();
    for (int node : nodes) {
      int owner = owner(node);
      if (owner >= 0 && acts.contains(owner) && onThat(node) != 0) {
        found.add(new Rung.Grants(owner, onThat(node), node, to, true));
        continue;
      }
      for (int row : grants.byNode().run(node)) {
        long may = grants.terms(row).grantable() & onThat(node);
        if (may != 0 && acts.contains(grants.grantee(row))) {
          found.add(new Rung.Grants(grants.grantee(row), may, node, to, false));
        }
      }
    }
    return found;
  }

  /** Who may grant what is on a node because it is theirs; -1 for nobody. */
  private int owner(int node) {
    return switch (access.rules().ownership()) {
      case NONE -> None.PRINCIPAL;
      case OBJECT -> tree.owner(node);
      case SCHEMA -> {
        int schema = tree.enclosing(node, NodeKind.SCHEMA);
        yield schema < 0 ? None.PRINCIPAL : tree.owner(schema);
      }
    };
  }

  /** The ladders to roles that lead to the goal. */
  List<Climb.Ladder> ladders(Climb.Result result) {
    return result.ladders().stream().filter(ladder -> below.contains(ladder.gained())).toList();
  }

  /** Whether somebody was given something that has to do with the goal, or owns it. */
  boolean isSource(int principal) {
    return sources.contains(principal);
  }
}
