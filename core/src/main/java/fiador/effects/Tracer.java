package fiador.effects;

import fiador.effects.Gates.OnTheWay;
import fiador.effects.Obstacle.ClosedDatabase;
import fiador.effects.Obstacle.Denied;
import fiador.effects.Obstacle.Disabled;
import fiador.effects.Obstacle.Ended;
import fiador.effects.Obstacle.Guarded;
import fiador.effects.Obstacle.MissingGate;
import fiador.effects.Obstacle.NothingGivesIt;
import fiador.effects.Obstacle.OnlyColumns;
import fiador.effects.Obstacle.Over;
import fiador.effects.Obstacle.UnderView;
import fiador.effects.Obstacle.Withheld;
import fiador.effects.Trace.PassedGate;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import java.math.BigInteger;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Explains one user, privilege and node: the verdict, each path, the gates, and the reasons. */
public final class Tracer {
  private final Access access;
  private final Tree tree;
  private final long now;
  private final Gates gates;
  private final ViewReading views;
  private final Holdings holdings;
  private final Remedies remedies;
  private final UserSessions sessions;
  private final WaySearch ways;

  /** Parameters as for {@link Holdings}. */
  public Tracer(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.now = clock.instant().getEpochSecond();
    RoleWalk walk = new RoleWalk(access, now);
    Sessions maker = new Sessions(access, now, walk);
    this.gates = new Gates(access);
    this.sessions = new UserSessions(maker, walk);
    this.views = new ViewReading(access, maker);
    this.holdings = new Holdings(access, clock, true);
    this.remedies = new Remedies(access, clock, maker, gates, views);
    this.ways = new WaySearch(access, walk, gates, views, sessions);
  }

  /**
   * The answer for one pair.
   *
   * @param column an ordinal, or -1 for the whole object
   * @param limit how many paths to list; all are counted
   */
  public Trace trace(int user, Privilege privilege, int node, int column, int limit) {
    sessions.about(user);
    Verdict verdict = verdict(user, privilege, node, column);
    int part = verdict.partial ? Sources.ANY_PART : column;
    WaySearch.Ways to = ways.to(user, privilege, node, part, verdict.state);
    boolean guarded = isGuarded(user, privilege, node) && !verdict.works();
    State works = verdict.works() ? verdict.state : null;
    List<Path> paths = guarded ? List.of() : to.nearest(limit, works);
    BigInteger count = guarded ? BigInteger.ZERO : to.count();
    if (access.accounts() != null && paths.size() < limit) {
      count = BigInteger.valueOf(paths.size());
    }
    List<Obstacle> obstacles =
        verdict.works()
            ? disabled(user)
            : obstacles(user, acting(user, paths), privilege, node, verdict, guarded);
    return new Trace(
        user,
        privilege,
        node,
        column,
        verdict.partial ? null : verdict.state,
        verdict.grantable,
        paths,
        count,
        passedGates(user, privilege, node, paths),
        obstacles,
        remedies.against(user, privilege, node, column, obstacles));
  }

  /**
   * The nearest way to one holding; null where there is none. Cost: less than a trace, which also
   * counts the ways and says what stands in them.
   */
  public Path nearest(Holding row) {
    sessions.about(row.user());
    boolean works = works(row.state());
    if (!works && isGuarded(row.user(), row.privilege(), row.node())) {
      return null;
    }
    int part = row.columns() == null ? None.COLUMN : row.columns().nextSetBit(0);
    List<Path> nearest =
        ways.to(row.user(), row.privilege(), row.node(), part, row.state())
            .nearest(1, works ? row.state() : null);
    return nearest.isEmpty() ? null : nearest.get(0);
  }

  private boolean isGuarded(int user, Privilege privilege, int node) {
    return (session(user).guarded(node) & privilege.bit()) != 0;
  }

  /**
   * The best state for exactly what was asked, or for a part of it; the column is the one asked.
   */
  private record Verdict(
      State state, boolean grantable, boolean partial, BitSet columns, int column) {
    boolean works() {
      return !partial && Tracer.works(state);
    }
  }

  private static boolean works(@Nullable State state) {
    return state == State.LIVE || state == State.ON_REQUEST;
  }

  private Verdict verdict(int user, Privilege privilege, int node, int column) {
    State best = null;
    boolean grantable = false;
    State partState = null;
    BitSet partColumns = new BitSet();
    for (Holding row : holdings.at(user, node)) {
      if (row.privilege() != privilege) {
        continue;
      }
      boolean all = row.columns() == null || column >= 0 && row.columns().get(column);
      if (all && (best == null || row.state() == best)) {
        best = row.state();
        grantable |= row.grantable();
      } else if (!all && column < 0 && (partState == null || partState == row.state())) {
        partState = row.state();
        partColumns.or(row.columns());
      }
    }
    return best == null && partState != null
        ? new Verdict(partState, false, true, partColumns, column)
        : new Verdict(best, grantable, false, partColumns, column);
  }

  private Session session(int principal) {
    return sessions.of(principal);
  }

  /** Who acts on the best path: the user, or the role to switch to. */
  private static int acting(int user, List<Path> paths) {
    boolean switched = !paths.isEmpty() && paths.get(0).switched() > 0;
    return switched ? paths.get(0).chain()[paths.get(0).switched()] : user;
  }

  private List<PassedGate> passedGates(int user, Privilege privilege, int node, List<Path> paths) {
    int actor = acting(user, paths);
    List<PassedGate> passed = new ArrayList<>();
    for (OnTheWay gate : gates.to(node, privilege.bit())) {
      int who = gate.gate().atLogin() ? user : actor;
      passed.add(new PassedGate(gate.container(), gate.gate().privilege(), through(who, gate)));
    }
    return passed;
  }

  /** Through whom a principal passes a gate: the nearest one that has what it asks for, or -1. */
  private int through(int principal, OnTheWay gate) {
    long wanted = gate.gate().privilege().bit();
    Session session = session(principal);
    if ((session.whole(gate.container()) & wanted) == 0) {
      return None.PRINCIPAL;
    }
    Sources sources = new Sources(access, wanted, gate.container(), None.COLUMN);
    for (int i = 0; i < session.roles().size(); i++) {
      int role = session.roles().getInt(i);
      if (!sources.passedOnBy(role).isEmpty() || !sources.ownOf(role).isEmpty()) {
        return role;
      }
    }
    return principal;
  }

  private List<Obstacle> disabled(int user) {
    Account account = access.principals().account(user);
    if (account.disabled()) {
      return List.of(new Disabled(user));
    }
    boolean over = account.until() != null && account.until().getEpochSecond() <= now;
    return over ? List.of(new Over(user, account.until())) : List.of();
  }

  private List<Obstacle> obstacles(
      int user, int acting, Privilege privilege, int node, Verdict verdict, boolean guarded) {
    List<Obstacle> found = new ArrayList<>(disabled(user));
    Session login = session(user);
    if (guarded) {
      found.add(new Guarded(node));
      return found;
    }
    if (verdict.state == State.LAPSED) {
      found.add(new Ended());
    } else if (isDenied(verdict, login, privilege, node)) {
      found.add(new Denied(session(acting).denials(node, privilege.bit(), verdict.column)));
      if (verdict.partial) {
        found.add(new OnlyColumns(verdict.columns));
      }
    } else if (verdict.partial) {
      found.add(new OnlyColumns(verdict.columns));
    } else if (verdict.state == null) {
      boolean withheld = (tree.withheld(node) & privilege.bit()) != 0;
      found.add(
          withheld && login.contains(tree.owner(node))
              ? new Withheld(tree.owner(node))
              : new NothingGivesIt());
    }
    addGateObstacles(user, acting, privilege, node, found);
    if (verdict.state == State.BLOCKED && ViewReading.usesWhatIsInside(privilege.bit())) {
      ViewReading.Obstacle under = views.obstacle(node, session(acting));
      if (under != null && under.who() < 0) {
        found.add(new Obstacle.OwnerGone(under.under()));
      } else if (under != null) {
        found.add(new UnderView(under.under(), under.who()));
      }
    }
    return found;
  }

  /** Whether a denial takes it away, or some columns of what was given on the whole. */
  private static boolean isDenied(Verdict verdict, Session login, Privilege privilege, int node) {
    long bit = privilege.bit();
    boolean someColumns = verdict.partial && (login.whole(node) & bit) != 0;
    return verdict.state == State.DENIED || (login.deniedWhole(node) & bit) != 0 || someColumns;
  }

  private void addGateObstacles(
      int user, int acting, Privilege privilege, int node, List<Obstacle> found) {
    Session login = session(user);
    if (gates.isClosed(node)) {
      found.add(new ClosedDatabase(tree.enclosing(node, NodeKind.DATABASE)));
    }
    for (OnTheWay gate : gates.to(node, privilege.bit())) {
      if (login.isSuperuser() && !gate.gate().sealedOnly()) {
        continue;
      }
      long wanted = gate.gate().privilege().bit();
      int who = gate.gate().atLogin() ? user : acting;
      if ((session(who).whole(gate.container()) & wanted) == 0) {
        found.add(new MissingGate(gate.container(), wanted, gate.gate().atLogin(), who));
      }
    }
  }
}
