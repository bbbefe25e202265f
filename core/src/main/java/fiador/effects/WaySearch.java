package fiador.effects;

import fiador.effects.PathSearch.Chain;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.Access;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The ways on which users come to what they hold, nearest first. What is known of a user serves for
 * everything that is asked about the user, and what gives a privilege on a node for all its users.
 */
final class WaySearch {
  /** How many more ways are looked at for one that works. */
  private static final int FURTHER = 200;

  private final Access access;
  private final RoleWalk walk;
  private final ObjectGates gates;
  private final ViewReading views;
  private final UserSessions sessions;
  private final ComingDown comingDown;
  private final Map<Boolean, ChainGraph> graphs = new HashMap<>();
  private int graphsOf = -1;
  private final Map<Given, Sources> sources = new HashMap<>();
  private int sourcesOf = -1;
  private @Nullable GrantsOn grantsOn;

  WaySearch(Access access, RoleWalk walk, Gates gates, ViewReading views, UserSessions sessions) {
    this.access = access;
    this.walk = walk;
    this.gates = new ObjectGates(access, gates);
    this.views = views;
    this.sessions = sessions;
    this.comingDown = new ComingDown(access);
  }

  /** What is given on the node at hand: a privilege, on a column or the whole. */
  private record Given(long privilege, int part) {}

  /**
   * The ways to one privilege. The sessions are of that user.
   *
   * @param part a column's ordinal, or what {@link Sources} takes for the whole or any part
   * @param state what is held, or null
   */
  Ways to(int user, Privilege privilege, int node, int part, @Nullable State state) {
    Sources given = sources(user, privilege.bit(), node, part);
    PathSearch search = new PathSearch(graph(user, state != State.LIVE), given);
    return new Ways(user, privilege.bit(), node, given, search);
  }

  private Sources sources(int user, long privilege, int node, int part) {
    if (sourcesOf != node) {
      sources.clear();
      sourcesOf = node;
      grantsOn = new GrantsOn(access, comingDown, node);
    }
    if (access.accounts() != null) {
      Sources given = new Sources(access, grantsOn, privilege, node, part);
      given.moveToAccount(user, row -> sessions.mayCount(access.grants(), row));
      return given;
    }
    return sources.computeIfAbsent(
        new Given(privilege, part), fresh -> new Sources(access, grantsOn, privilege, node, part));
  }

  private ChainGraph graph(int user, boolean publicAfterSwitch) {
    if (graphsOf != user) {
      graphs.clear();
      graphsOf = user;
    }
    return graphs.computeIfAbsent(
        publicAfterSwitch, fresh -> new ChainGraph(access.memberships(), walk, user, fresh));
  }

  /** The ways to one privilege on one node. */
  final class Ways {
    private final int user;
    private final long privilege;
    private final int node;
    private final Sources sources;
    private final PathSearch search;

    private Ways(int user, long privilege, int node, Sources sources, PathSearch search) {
      this.user = user;
      this.privilege = privilege;
      this.node = node;
      this.sources = sources;
      this.search = search;
    }

    /** How many there are. */
    BigInteger count() {
      return search.count();
    }

    /**
     * The nearest ones; further ones where those lead to roles that lack something else.
     *
     * @param limit how many at most
     * @param works the state that one of them has, where it works; else null
     */
    List<Path> nearest(int limit, @Nullable State works) {
      List<Path> nearest = paths(limit);
      if (works == null || nearest.stream().anyMatch(path -> path.state() == works)) {
        return nearest;
      }
      List<Path> more = paths(limit + FURTHER);
      return more.subList(0, Math.min(limit, more.size()));
    }

    private List<Path> paths(int limit) {
      List<Path> paths = new ArrayList<>();
      for (Chain chain : search.nearest(limit)) {
        int last = chain.principals()[chain.principals().length - 1];
        List<Source> ends = chain.ownPower() ? sources.ownOf(last) : sources.passedOnBy(last);
        for (Source source : ends) {
          if (paths.size() < limit) {
            Path path = path(chain, source);
            if (isReal(path)) {
              paths.add(path);
            }
          }
        }
      }
      paths.sort(Comparator.comparing(Path::state));
      return paths;
    }

    private Path path(Chain chain, Source source) {
      int[] principals = chain.principals();
      if (chain.live()) {
        return new Path(principals, 0, source, state(user, State.LIVE));
      }
      // the earlier the switch, the more roles are on after it; the first that works is the one to
      // take
      int end = principals.length - 1;
      int switched = 0;
      for (int at = chain.ownPower() ? end : 1; at <= end; at++) {
        if (principals[at] != Principals.PUBLIC
            && canSwitchTo(principals, at)
            && isOnFrom(principals, at)) {
          if (state(principals[at], State.ON_REQUEST) == State.ON_REQUEST) {
            return new Path(principals, at, source, State.ON_REQUEST);
          }
          switched = switched == 0 ? at : switched;
        }
      }
      State state = state(principals[switched], State.ON_REQUEST);
      return new Path(principals, switched, source, state);
    }

    private State state(int acting, State open) {
      Session login = sessions.of(user);
      Session who = sessions.of(acting);
      if ((who.deniedWhole(node) & privilege) != 0) {
        return State.DENIED;
      }
      boolean shut =
          gates.blocked(node, privilege, login, who) != 0
              || ViewReading.usesWhatIsInside(privilege) && views.obstacle(node, who) != null;
      return shut ? State.BLOCKED : open;
    }
  }

  /** Whether the grant at a path's end counts in the session it leads to. */
  private boolean isReal(Path path) {
    return !(path.source() instanceof Source.Granted granted)
        || access.accounts() == null
        || sessions.of(path.chain()[path.switched()]).counts(access.grants(), granted.row());
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
}
