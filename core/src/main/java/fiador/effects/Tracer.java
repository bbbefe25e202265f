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
import fiador.effects.PathSearch.Chain;
import fiador.effects.Trace.PassedGate;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.math.BigInteger;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Explains one user, privilege and node: the verdict, each path, the gates, and the reasons. */
public final class Tracer {
  /** How many more ways are looked at for one that works. */
  private static final int FURTHER = 200;

  private final Access access;
  private final Tree tree;
  private final long now;
  private final RoleWalk walk;
  private final Gates gates;
  private final ViewReading views;
  private final Holdings holdings;
  private final Remedies remedies;
  private final Sessions maker;
  private final Map<Integer, Session> sessions = new HashMap<>();
  private int sessionsOf = -1;

  /** Parameters as for {@link Holdings}. */
  public Tracer(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.now = clock.instant().getEpochSecond();
    this.walk = new RoleWalk(access, now);
    this.gates = new Gates(access);
    this.maker = new Sessions(access, now, walk);
    this.views = new ViewReading(access, maker);
    this.holdings = new Holdings(access, clock, true);
    this.remedies = new Remedies(access, clock, maker, gates, views);
  }

  /**
   * The answer for one pair.
   *
   * @param column an ordinal, or -1 for the whole object
   * @param limit how many paths to list; all are counted
   */
  public Trace trace(int user, Privilege privilege, int node, int column, int limit) {
    of(user);
    Verdict verdict = verdict(user, privilege, node, column);
    Sources sources = sources(user, privilege, node, verdict.partial ? Sources.ANY_PART : column);
    PathSearch search = search(user, sources, verdict.state);
    boolean guarded = isGuarded(user, privilege, node) && !verdict.works();
    State works = verdict.works() ? verdict.state : null;
    List<Path> paths =
        guarded ? List.of() : best(search, sources, user, privilege.bit(), node, limit, works);
    BigInteger count = guarded ? BigInteger.ZERO : search.count();
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
    of(row.user());
    int column = row.columns() == null ? None.COLUMN : row.columns().nextSetBit(0);
    Sources sources = sources(row.user(), row.privilege(), row.node(), column);
    PathSearch search = search(row.user(), sources, row.state());
    boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
    if (!works && isGuarded(row.user(), row.privilege(), row.node())) {
      return null;
    }
    State wanted = works ? row.state() : null;
    List<Path> paths =
        best(search, sources, row.user(), row.privilege().bit(), row.node(), 1, wanted);
    return paths.isEmpty() ? null : paths.get(0);
  }

  /** What is known of sessions is of one user at a time. */
  private void of(int user) {
    if (sessionsOf != user) {
      sessions.clear();
      sessionsOf = user;
    }
  }

  private Sources sources(int user, Privilege privilege, int node, int part) {
    Sources sources = new Sources(access, privilege.bit(), node, part);
    if (access.accounts() != null) {
      sources.moveToAccount(user, this::mayCount);
    }
    return sources;
  }

  private PathSearch search(int user, Sources sources, State state) {
    return new PathSearch(
        access.memberships(),
        walk,
        user,
        state != State.LIVE,
        principal -> sources.passedOnBy(principal).size(),
        principal -> sources.ownOf(principal).size());
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
      return !partial && (state == State.LIVE || state == State.ON_REQUEST);
    }
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
    return sessions.computeIfAbsent(
        principal, id -> sessionsOf == id ? maker.login(id) : maker.after(sessionsOf, id));
  }

  /**
   * The nearest ways; further ones where those lead to roles that lack something else.
   *
   * @param works the state that one of them has, where it works
   */
  private List<Path> best(
      PathSearch search,
      Sources sources,
      int user,
      long privilege,
      int node,
      int limit,
      @Nullable State works) {
    List<Path> nearest = paths(search, sources, user, privilege, node, limit);
    if (works == null || nearest.stream().anyMatch(path -> path.state() == works)) {
      return nearest;
    }
    List<Path> more = paths(search, sources, user, privilege, node, limit + FURTHER);
    return more.subList(0, Math.min(limit, more.size()));
  }

  private List<Path> paths(
      PathSearch search, Sources sources, int user, long privilege, int node, int limit) {
    List<Path> paths = new ArrayList<>();
    for (Chain chain : search.nearest(limit)) {
      int last = chain.principals()[chain.principals().length - 1];
      List<Source> ends = chain.ownPower() ? sources.ownOf(last) : sources.passedOnBy(last);
      for (Source source : ends) {
        if (paths.size() < limit) {
          Path path = path(chain, source, user, privilege, node);
          if (isReal(path)) {
            paths.add(path);
          }
        }
      }
    }
    paths.sort(Comparator.comparing(Path::state));
    return paths;
  }

  private Path path(Chain chain, Source source, int user, long privilege, int node) {
    int[] principals = chain.principals();
    if (chain.live()) {
      return new Path(principals, 0, source, pathState(privilege, user, user, node, State.LIVE));
    }
    // the earlier the switch, the more roles are on after it; the first that works is the one to
    // take
    int end = principals.length - 1;
    int switched = 0;
    for (int at = chain.ownPower() ? end : 1; at <= end; at++) {
      if (principals[at] != Principals.PUBLIC
          && canSwitchTo(principals, at)
          && isOnFrom(principals, at)) {
        if (pathState(privilege, user, principals[at], node, State.ON_REQUEST)
            == State.ON_REQUEST) {
          return new Path(principals, at, source, State.ON_REQUEST);
        }
        switched = switched == 0 ? at : switched;
      }
    }
    State state = pathState(privilege, user, principals[switched], node, State.ON_REQUEST);
    return new Path(principals, switched, source, state);
  }

  private State pathState(long privilege, int user, int acting, int node, State open) {
    Session login = session(user);
    Session who = session(acting);
    if ((who.deniedWhole(node) & privilege) != 0) {
      return State.DENIED;
    }
    boolean shut =
        gates.blocked(node, privilege, login, who) != 0
            || usesWhatIsInside(privilege) && views.obstacle(node, who) != null;
    return shut ? State.BLOCKED : open;
  }

  /** Whether a row may count after login or after some switch. */
  private boolean mayCount(int row) {
    IntArrayList ways = walk.switchable(sessionsOf);
    for (int i = 0; i < ways.size(); i++) {
      if (session(ways.getInt(i)).counts(access.grants(), row)) {
        return true;
      }
    }
    return false;
  }

  /** Whether the grant at a path's end counts in the session it leads to. */
  private boolean isReal(Path path) {
    return !(path.source() instanceof Source.Granted granted)
        || access.accounts() == null
        || session(path.chain()[path.switched()]).counts(access.grants(), granted.row());
  }

  /** Whether the use of a privilege depends on what lies under a view or in a routine. */
  static boolean usesWhatIsInside(long privilege) {
    return privilege == Privilege.SELECT.bit() || privilege == Privilege.EXECUTE.bit();
  }

  private boolean canSwitchTo(int[] chain, int at) {
    for (int hop = 0; hop < at; hop++) {
      if (chain[hop + 1] != Principals.PUBLIC
          && !connected(chain[hop], chain[hop + 1], RoleWalk.Along.SET)) {
        return false;
      }
    }
    return true;
  }

  private boolean isOnFrom(int[] chain, int at) {
    for (int hop = at; hop + 1 < chain.length; hop++) {
      if (chain[hop + 1] != Principals.PUBLIC
          && !connected(chain[hop], chain[hop + 1], RoleWalk.Along.INHERIT)) {
        return false;
      }
    }
    return true;
  }

  private boolean connected(int member, int role, RoleWalk.Along along) {
    var edges = access.memberships().rolesOf();
    for (int place = edges.from(member); place < edges.to(member); place++) {
      int edge = edges.row(place);
      if (access.memberships().role(edge) == role && walk.follows(edge, along)) {
        return true;
      }
    }
    return false;
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
    if (verdict.state == State.BLOCKED && usesWhatIsInside(privilege.bit())) {
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
