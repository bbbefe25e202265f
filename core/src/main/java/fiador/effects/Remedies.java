package fiador.effects;

import fiador.effects.Obstacle.MissingGate;
import fiador.effects.Obstacle.NothingGivesIt;
import fiador.effects.Obstacle.OnlyColumns;
import fiador.effects.Obstacle.UnderView;
import fiador.effects.Obstacle.Withheld;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** What would give somebody a privilege: each alone, the narrowest first. */
final class Remedies {
  private static final int ROLES_TO_WEIGH = 20;
  private static final int ROLES_TO_NAME = 2;

  private final Access access;
  private final Tree tree;
  private final Sessions maker;
  private final Gates gates;
  private final ViewReading views;
  private final Holdings outsideSystem;

  Remedies(Access access, Clock clock, Sessions maker, Gates gates, ViewReading views) {
    this.access = access;
    this.tree = access.tree();
    this.maker = maker;
    this.gates = gates;
    this.views = views;
    this.outsideSystem = new Holdings(access, clock, false);
  }

  /** What would help against these obstacles, the best first. Cost: the roles that have it. */
  List<Remedy> against(
      int user, Privilege privilege, int node, int column, List<Obstacle> obstacles) {
    List<Remedy> remedies = new ArrayList<>();
    if (obstacles.stream().anyMatch(Obstacle.Denied.class::isInstance)) {
      // whatever is given beside it is denied too
      return remedies;
    }
    for (Obstacle obstacle : obstacles) {
      if (obstacle instanceof NothingGivesIt
          || obstacle instanceof OnlyColumns
          || obstacle instanceof Withheld) {
        remedies.addAll(sources(user, privilege, node, column));
      } else if (obstacle instanceof MissingGate gate) {
        remedies.add(new Remedy.Grant(gate.privilege(), gate.container(), None.COLUMN, gate.who()));
      } else if (obstacle instanceof UnderView under) {
        boolean routine = tree.kind(under.under()) == NodeKind.ROUTINE;
        long needed = routine ? Privilege.EXECUTE.bit() : Privilege.SELECT.bit();
        remedies.add(new Remedy.Grant(needed, under.under(), None.COLUMN, under.who()));
      }
    }
    return remedies;
  }

  /**
   * What would give it, each alone: the narrowest roles that have it, then a grant to a role they
   * have already, and a grant to themselves last.
   */
  private List<Remedy> sources(int user, Privilege privilege, int node, int column) {
    // a role that has it on some columns only would not do
    List<Remedy> found =
        new ArrayList<>(
            rolesThatHaveIt(privilege, node, new Sources(access, privilege.bit(), node, column)));
    int own = narrowestOwnRole(user);
    if (own >= 0) {
      found.add(new Remedy.Grant(privilege.bit(), node, column, own));
    }
    found.add(new Remedy.Grant(privilege.bit(), node, column, user));
    return found;
  }

  /** The one of a user's own roles that carries the least; -1 for none. */
  private int narrowestOwnRole(int user) {
    int narrowest = -1;
    long fewest = Long.MAX_VALUE;
    int weighed = 0;
    for (int edge : access.memberships().rolesOf().run(user)) {
      int role = access.memberships().role(edge);
      boolean counts =
          access.memberships().options(edge).inherit()
              && !access.memberships().options(edge).implicit();
      if (counts && isGiven(role) && weighed++ < ROLES_TO_WEIGH) {
        long holdings = outsideSystem.count(role);
        if (holdings < fewest) {
          fewest = holdings;
          narrowest = role;
        }
      }
    }
    return narrowest;
  }

  /** Whether it is a role that people are given, and no administrator's of the server's own. */
  private boolean isGiven(int role) {
    return access.principals().kind(role) == PrincipalKind.ROLE
        && access.principals().scope(role) < 0
        && access.principals().powers(role) == 0
        && !access.rules().isOwn(access.principals().name(role));
  }

  /** Whether a role alone would be enough. */
  private boolean worksFor(int role, long privilege, int node) {
    Session alone = maker.owner(role);
    return (alone.deniedWhole(node) & privilege) == 0
        && gates.blocked(node, privilege, alone, alone) == 0
        && (!ViewReading.usesWhatIsInside(privilege) || views.obstacle(node, alone) == null);
  }

  private List<Remedy> rolesThatHaveIt(Privilege privilege, int node, Sources sources) {
    List<Remedy.Join> roles = new ArrayList<>();
    for (int principal : sources.principals()) {
      if (isGiven(principal)
          && roles.size() < ROLES_TO_WEIGH
          && worksFor(principal, privilege.bit(), node)) {
        roles.add(new Remedy.Join(principal, outsideSystem.count(principal)));
      }
    }
    roles.sort(Comparator.comparingLong(Remedy.Join::holdings));
    return List.copyOf(roles.subList(0, Math.min(ROLES_TO_NAME, roles.size())));
  }
}
