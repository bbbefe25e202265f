package fiador.effects;

import fiador.effects.Tally.Part;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Consumer;

/**
 * What a user holds. Works session by session: everything the roles of a session were given is
 * added up, then sorted into states by the gates. Keeps its arrays from one question to the next,
 * so one instance serves many questions of one thread.
 *
 * <p>Cost of a question: the answer plus the user's role closure; times the number of roles that
 * can be switched to and are not on already, for users who have such.
 */
public final class Holdings {
  /** So many nodes are looked at one by one; for more, all grants are gone through once. */
  private static final int FEW = 8;

  /** So many are counted by their rows, before it pays to put together what counting needs. */
  private static final int FEW_COUNTED = 40;

  private final Access access;
  private final Tree tree;
  private final long now;
  private final boolean withSystem;
  private final RoleWalk walk;
  private final ObjectGates gates;
  private final ViewReading views;
  private final Sessions sessions;
  private Tally sum;
  private final Ranked ranked;
  private final Gathering gathering;
  private final boolean countsQuickly;
  private int counted;

  /** Made when it is first counted; null before. */
  private QuickCount quickCount;

  /**
   * @param clock tells what is past its time
   * @param withSystem whether the server's own schemas are part of the answers
   */
  public Holdings(Access access, Clock clock, boolean withSystem) {
    this(access, clock, withSystem, false);
  }

  /**
   * As the other.
   *
   * @param compact whether a right that comes down from a container is listed on the container only
   */
  public Holdings(Access access, Clock clock, boolean withSystem, boolean compact) {
    this.access = access;
    this.tree = access.tree();
    this.now = clock.instant().getEpochSecond();
    this.withSystem = withSystem;
    this.walk = new RoleWalk(access, now);
    this.gates = new ObjectGates(access, new Gates(access));
    this.sessions = new Sessions(access, now, walk);
    this.views = new ViewReading(access, sessions);
    this.sum = new Tally(tree.size());
    this.ranked = new Ranked(tree.size());
    this.gathering = new Gathering(access, withSystem, compact);
    this.countsQuickly = QuickCount.isPossible(access, gathering, withSystem, compact);
  }

  /** All holdings of a user, by node, privilege, and the best state first. */
  public List<Holding> of(int user) {
    List<Holding> rows = new ArrayList<>();
    work(user, None.NODE);
    ranked.emitAll(true, into(user, rows));
    return rows;
  }

  /** The holdings of a user on one node alone. */
  public List<Holding> at(int user, int node) {
    List<Holding> rows = new ArrayList<>();
    work(user, node);
    ranked.emitAll(true, into(user, rows));
    return rows;
  }

  /** Takes what a session of a user has on a node. */
  interface SessionRows {
    /**
     * One session.
     *
     * @param rows what it has; {@link State#LIVE} for what works in it
     */
    void session(Session login, Session acting, List<Holding> rows);
  }

  /** The holdings of a user on a node, session by session, the one after login first. */
  void inEachSession(int user, int node, SessionRows each) {
    Session login = sessions.login(user);
    inSession(login, login, node, each);
    forEachSwitch(
        user,
        login,
        walk.up(user, RoleWalk.Along.INHERIT),
        acting -> inSession(login, acting, node, each));
  }

  private void inSession(Session login, Session acting, int node, SessionRows each) {
    ranked.clear();
    gathering.collect(acting, node, sum);
    sortIntoStates(login, acting, State.LIVE);
    List<Holding> rows = new ArrayList<>();
    ranked.emitAll(true, into(acting.self(), rows));
    each.session(login, acting, rows);
  }

  /** How many rows {@link #of} would have. Cost: what the roles were given. */
  public long count(int user) {
    if (!countsQuickly || isWorthBlocks()) {
      return countByState(user).total();
    }
    Session login = sessions.login(user);
    boolean[] others = new boolean[1];
    IntArrayList enabled = walk.up(user, RoleWalk.Along.INHERIT);
    forEachSwitch(user, login, enabled, acting -> others[0] = true);
    return others[0] ? countByState(user).total() : countAll(login);
  }

  /**
   * How many rows a session makes, whatever state they are in: if it is the only one, it is one.
   */
  private long countAll(Session login) {
    counted++;
    ranked.clear();
    gathering.collect(login, None.NODE, sum);
    long rows = 0;
    for (int i = 0; i < sum.touched().size(); i++) {
      int node = sum.touched().getInt(i);
      long held = sum.whole(node);
      if (sum.parts(node).isEmpty()) {
        rows += Long.bitCount(held);
      } else if (withSystem || !gathering.isSystem(node)) {
        sortIntoStates(node, login, login, State.LIVE);
      }
    }
    StateCounts counts = new StateCounts();
    addEmitted(counts);
    return rows + counts.total();
  }

  private boolean isWorthBlocks() {
    return counted >= FEW_COUNTED;
  }

  /** From now on it is worth it. */
  void countInBlocks() {
    counted = FEW_COUNTED;
  }

  /** How many rows {@link #of} would have in each state. Cost: of many far less than those rows. */
  public StateCounts countByState(int user) {
    StateCounts counts = countsQuickly && isWorthBlocks() ? countQuickly(user) : null;
    counted++;
    if (counts == null) {
      counts = new StateCounts();
      work(user, None.NODE);
    }
    addEmitted(counts);
    return counts;
  }

  /** As far as that is possible; the others are left in {@link #ranked}. Null if it is not. */
  private StateCounts countQuickly(int user) {
    ranked.clear();
    if (quickCount == null) {
      quickCount = new QuickCount(access, gathering, views, withSystem);
    }
    List<Session> all = new ArrayList<>();
    Session login = sessions.login(user);
    all.add(login);
    forEachSwitch(user, login, walk.up(user, RoleWalk.Along.INHERIT), all::add);
    StateCounts counts = quickCount.count(all);
    for (Session acting : counts == null ? List.<Session>of() : all) {
      addHard(login, acting, acting == login ? State.LIVE : State.ON_REQUEST);
    }
    return counts;
  }

  private void addHard(Session login, Session acting, State ifOpen) {
    if (quickCount.hard().size() > FEW && !acting.isSuperuser()) {
      quickCount.collectHard(acting, sum);
      sortIntoStates(login, acting, ifOpen);
      return;
    }
    for (int i = 0; i < quickCount.hard().size(); i++) {
      int node = quickCount.hard().get(i);
      gathering.collect(acting, node, sum);
      sortIntoStates(node, login, acting, ifOpen);
    }
  }

  private void addEmitted(StateCounts counts) {
    ranked.emitAll(false, (node, privilege, state, grantable, columns) -> counts.add(state));
  }

  private static Ranked.Sink into(int user, List<Holding> rows) {
    return (node, privilege, state, grantable, columns) ->
        rows.add(new Holding(user, Privilege.lowest(privilege), node, state, grantable, columns));
  }

  private void work(int user, int onlyNode) {
    ranked.clear();
    IntArrayList enabled = walk.up(user, RoleWalk.Along.INHERIT);
    Session login = sessions.login(user);
    gathering.collect(login, onlyNode, sum);
    sortIntoStates(login, login, State.LIVE);
    forEachSwitch(
        user,
        login,
        enabled,
        acting -> {
          gathering.collect(acting, onlyNode, sum);
          sortIntoStates(login, acting, State.ON_REQUEST);
        });
    if (access.rules().has(HouseFact.ENFORCES_TIME)) {
      addLapsed(user, onlyNode);
    }
  }

  /**
   * The sessions that switching to a role makes, as far as they bring anything more: also by what
   * they leave behind, where a role may deny.
   */
  private void forEachSwitch(
      int user, Session login, IntArrayList enabled, Consumer<Session> each) {
    IntArrayList settable = walk.switchable(user);
    boolean denials = access.rules().has(HouseFact.DENIALS);
    boolean all = login.isSuperuser() && tree.sealed().size() == 0 && !denials;
    if (all || settable.size() == 1) {
      return;
    }
    boolean oneAtATime = access.rules().activation() == Activation.ONE_AT_A_TIME;
    if (denials && oneAtATime && enabled.size() > 1) {
      each.accept(sessions.withoutRole(user));
    }
    IntOpenHashSet covered = new IntOpenHashSet(enabled);
    for (int i = 1; i < settable.size(); i++) {
      int role = settable.getInt(i);
      // what an already covered role brings is a part of what covered it, its gates included;
      // only a superuser's own power does not pass to members, and a denial or a better row may
      // stay behind
      if (!denials
          && !login.isCompetition()
          && covered.contains(role)
          && !access.principals().has(role, Power.SUPERUSER)) {
        continue;
      }
      covered.addAll(walk.up(role, RoleWalk.Along.INHERIT));
      each.accept(sessions.after(user, role));
    }
  }

  private void addLapsed(int user, int onlyNode) {
    Session ever = new Session(access, Long.MIN_VALUE, user, walk.upIgnoringTime(user));
    gathering.collect(ever, onlyNode, sum);
    Tally lapsed = ranked.at(State.LAPSED);
    for (int i = 0; i < sum.touched().size(); i++) {
      int node = sum.touched().getInt(i);
      // what is there in any better state has not ended
      long ended = ~ranked.better(node, State.LAPSED);
      for (State state : List.of(State.LIVE, State.ON_REQUEST, State.BLOCKED, State.DENIED)) {
        for (Part part : ranked.at(state).parts(node)) {
          ended &= ~part.privileges();
        }
      }
      if ((sum.whole(node) & ended) != 0) {
        lapsed.add(node, sum.whole(node) & ended, sum.grantable(node) & sum.whole(node) & ended);
      }
      for (Part part : sum.parts(node)) {
        if ((part.privileges() & ended) != 0) {
          lapsed.addPart(
              node, new Part(part.privileges() & ended, part.grantable() & ended, part.columns()));
        }
      }
    }
  }

  private void sortIntoStates(Session login, Session acting, State ifOpen) {
    for (int i = 0; i < sum.touched().size(); i++) {
      int node = sum.touched().getInt(i);
      if (withSystem || !gathering.isSystem(node)) {
        sortIntoStates(node, login, acting, ifOpen);
      }
    }
  }

  private void sortIntoStates(int node, Session login, Session acting, State ifOpen) {
    long hidden = gathering.hidden(acting, node);
    long held = sum.whole(node) & ~hidden;
    long canGrant = sum.grantable(node);
    long all = held;
    for (Part part : sum.parts(node)) {
      all |= part.privileges();
    }
    if (all == 0) {
      return;
    }
    long blocked = blocked(node, all, login, acting);
    if (access.rules().has(HouseFact.DENIALS)) {
      held = withoutDenied(node, acting, held, canGrant);
    }
    if ((held & ~blocked) != 0) {
      ranked.at(ifOpen).add(node, held & ~blocked, canGrant & held & ~blocked);
    }
    if ((held & blocked) != 0) {
      ranked.at(State.BLOCKED).add(node, held & blocked, canGrant & held & blocked);
    }
    for (Part part : sum.parts(node)) {
      long open = part.privileges() & ~blocked & ~hidden;
      long shut = part.privileges() & blocked & ~hidden;
      long grantable = part.grantable() | canGrant;
      if (open != 0) {
        addAllowed(node, acting, new Part(open, grantable & open, part.columns()), ifOpen);
      }
      if (shut != 0) {
        addAllowed(node, acting, new Part(shut, grantable & shut, part.columns()), State.BLOCKED);
      }
    }
  }

  private long blocked(int node, long wanted, Session login, Session acting) {
    long blocked = gates.blocked(node, wanted, login, acting);
    long select = Privilege.SELECT.bit();
    if ((wanted & ~blocked & select) != 0
        && tree.kind(node) == NodeKind.VIEW
        && views.obstacle(node, acting) != null) {
      blocked |= select;
    }
    long execute = wanted & Privilege.EXECUTE.bit();
    if (execute != 0
        && tree.kind(node) == NodeKind.ROUTINE
        && views.obstacle(node, acting) != null) {
      blocked |= execute;
    }
    return blocked;
  }

  /**
   * Moves what a denial takes away to {@code denied}; what it leaves of a whole comes back as
   * parts.
   */
  private long withoutDenied(int node, Session session, long held, long canGrant) {
    long denied = held & session.deniedWhole(node);
    ranked.at(State.DENIED).add(node, denied, 0);
    long left = held & ~denied;
    for (long rest = left; rest != 0; rest &= rest - 1) {
      long privilege = Long.lowestOneBit(rest);
      BitSet columns = session.deniedColumns(node, privilege);
      if (!columns.isEmpty()) {
        BitSet others = new BitSet();
        others.set(0, tree.columns(node));
        others.andNot(columns);
        ranked.at(State.DENIED).addPart(node, new Part(privilege, 0, columns));
        sum.addPart(node, new Part(privilege, canGrant & privilege, others));
        left &= ~privilege;
      }
    }
    return left;
  }

  private void addAllowed(int node, Session session, Part part, State state) {
    if (!access.rules().has(HouseFact.DENIALS)) {
      ranked.at(state).addPart(node, part);
      return;
    }
    long whole = session.deniedWhole(node);
    for (long rest = part.privileges(); rest != 0; rest &= rest - 1) {
      long privilege = Long.lowestOneBit(rest);
      BitSet denied = (BitSet) part.columns().clone();
      if ((whole & privilege) == 0) {
        denied.and(session.deniedColumns(node, privilege));
      }
      BitSet allowed = (BitSet) part.columns().clone();
      allowed.andNot(denied);
      if (!denied.isEmpty()) {
        ranked.at(State.DENIED).addPart(node, new Part(privilege, 0, denied));
      }
      if (!allowed.isEmpty()) {
        ranked.at(state).addPart(node, new Part(privilege, part.grantable() & privilege, allowed));
      }
    }
  }
}
