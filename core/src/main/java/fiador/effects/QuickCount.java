package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.rules.HouseFact;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Counts the holdings of a user by their states, 64 nodes at a time, without listing them. What
 * comes down from containers is laid over all that lies in them in one go. Where columns come into
 * it, with the right to grant on or from several sessions, rows may differ in more than their
 * state: such nodes are left to {@link Holdings}. Cost of a question: the blocks in which the roles
 * of the sessions have something.
 */
final class QuickCount {
  private final Access access;
  private final Gathering gathering;
  private final SmallNumbers numbers;
  private final NodeBlocks blocks;
  private final RoleMasks roles;
  private final NodeMasks login;
  private final BlockGates gates;
  private final HardNodes hard = new HardNodes();
  private boolean anyDown;

  /** For those who have several sessions; null before there was one. */
  private @Nullable NodeMasks acting;

  private @Nullable Switched switched;

  /** For estates where it {@link #isPossible}. */
  QuickCount(Access access, Gathering gathering, ViewReading views, boolean withSystem) {
    Tree tree = access.tree();
    this.access = access;
    this.gathering = gathering;
    this.numbers = new SmallNumbers(access);
    this.blocks = new NodeBlocks(tree, gathering, withSystem);
    this.roles = new RoleMasks(access, blocks, numbers);
    this.login = new NodeMasks(tree.size());
    this.gates = new BlockGates(access, views, numbers);
  }

  /**
   * Whether rights can be counted like this: where none of them are taken by denials, by time, by
   * other rows or by what is sealed or guarded.
   *
   * @param compact whether what comes down counts on the container alone
   */
  static boolean isPossible(
      Access access, Gathering gathering, boolean withSystem, boolean compact) {
    return !access.rules().has(HouseFact.DENIALS)
        && !access.rules().has(HouseFact.ENFORCES_TIME)
        && !access.rules().has(HouseFact.ONE_ROW_COUNTS)
        && access.tree().sealed().size() == 0
        && !(compact && anythingComesDown(access.grants()))
        && !(withSystem && gathering.anyGuarded());
  }

  private static boolean anythingComesDown(Grants grants) {
    for (int id = 0; id < grants.differentTerms(); id++) {
      if (grants.termsAt(id).covers() != 0) {
        return true;
      }
    }
    return false;
  }

  /**
   * Counts the rows of the sessions of a user, without those on the {@link #hard} nodes.
   *
   * @param sessions the one after login first
   * @return the rows by state; null where they cannot be counted like this
   */
  @Nullable StateCounts count(List<Session> sessions) {
    hard.clear();
    anyDown = false;
    gather(sessions.get(0), login);
    gates.atLogin(sessions.get(0), login);
    StateCounts counts = new StateCounts();
    Switched others = sessions.size() == 1 ? null : switched(sessions);
    for (int i = 0; i < login.size(); i++) {
      int block = login.block(i);
      if (others != null && others.all().touches(block)) {
        count(block, others, counts);
      } else {
        count(i, block, counts);
      }
    }
    if (others != null) {
      NodeMasks all = others.all();
      for (int i = 0; i < all.size(); i++) {
        int block = all.block(i);
        if (!login.touches(block)) {
          count(block, others, counts);
        }
      }
    }
    return roles.isOdd() ? null : counts;
  }

  /** What a session has. */
  private void gather(Session session, NodeMasks into) {
    into.clear();
    boolean grantOn = session.isSuperuser() || access.rules().has(HouseFact.POWERS_GRANT_ON);
    for (NodeKind kind : NodeKind.values()) {
      long opened =
          session.isSuperuser() ? access.rules().privilegesOn(kind) : session.opened(kind);
      if (opened != 0) {
        roles.addEverywhere(kind, opened, grantOn ? opened : 0, into);
        anyDown = true;
      }
    }
    for (int i = 0; i < session.roles().size() && !session.isSuperuser(); i++) {
      anyDown |= roles.add(session.roles().getInt(i), into);
    }
    roles.addNoted(into);
  }

  /** What the sessions after switching have. */
  private Switched switched(List<Session> sessions) {
    if (switched == null || acting == null) {
      int nodes = access.tree().size();
      switched = new Switched(nodes, blocks);
      acting = new NodeMasks(nodes);
    }
    switched.clear();
    for (Session each : sessions.subList(1, sessions.size())) {
      gather(each, acting);
      gates.switchTo(each, acting);
      switched.add(acting, gates);
    }
    gates.switchTo(sessions.get(0), login);
    return switched;
  }

  /** Counts what the first session alone has in a block, the one of that number. */
  private void count(int number, int block, StateCounts into) {
    long left = login.partsPassedAt(number);
    int only = blocks.only(block);
    if (left == 0 && only >= 0 && BlockGates.areAlike(only)) {
      // most are like this, and this is quicker than what follows
      boolean isOpen = gates.isOpen(only, block, -1);
      into.add(isOpen ? State.LIVE : State.BLOCKED, login.countAt(number, -1));
      return;
    }
    long works = 0;
    long doesNot = 0;
    for (int group = 0; group < blocks.groups(block); group++) {
      hard.add(block, left & blocks.nodes(block, group));
      long nodes = blocks.nodes(block, group) & ~left;
      int key = blocks.key(block, group);
      if (!BlockGates.areAlike(key)) {
        countEach(block, key, nodes, into);
      } else if (gates.isOpen(key, block, nodes)) {
        works |= nodes;
      } else {
        doesNot |= nodes;
      }
    }
    into.add(State.LIVE, login.countAt(number, works));
    into.add(State.BLOCKED, login.countAt(number, doesNot));
  }

  private void countEach(int block, int key, long nodes, StateCounts into) {
    for (long rest = login.held(); rest != 0; rest &= rest - 1) {
      int privilege = Long.numberOfTrailingZeros(rest);
      long held = login.held(block, privilege) & nodes;
      long shut = gates.shut(key, block, privilege, held);
      into.add(State.LIVE, Long.bitCount(held & ~shut));
      into.add(State.BLOCKED, Long.bitCount(shut));
    }
  }

  /** Counts what all sessions have in a block. */
  private void count(int block, Switched others, StateCounts into) {
    long parts = login.parts(block) | others.all().parts(block);
    long passed = login.anyPassed(block) | others.all().anyPassed(block);
    long left = parts & (passed | twice(block, others));
    for (int group = 0; group < blocks.groups(block); group++) {
      hard.add(block, left & blocks.nodes(block, group));
      long nodes = blocks.nodes(block, group) & ~left;
      int key = blocks.key(block, group);
      for (long rest = login.held() | others.held(); rest != 0; rest &= rest - 1) {
        int privilege = Long.numberOfTrailingZeros(rest);
        long held = login.held(block, privilege) & nodes;
        long shut = gates.shut(key, block, privilege, held);
        long canGrant = login.passed(block, privilege);
        into.add(State.LIVE, Long.bitCount(held & ~shut));
        others.count(block, privilege, nodes, held & ~shut, shut, canGrant, into);
      }
    }
  }

  /** The nodes of a block on which more than one session has something. */
  private long twice(int block, Switched others) {
    long first = 0;
    for (long rest = login.held(); rest != 0; rest &= rest - 1) {
      first |= login.held(block, Long.numberOfTrailingZeros(rest));
    }
    return others.twice(block) | first & others.once(block);
  }

  /** The nodes that the last count left out. */
  HardNodes hard() {
    return hard;
  }

  /**
   * Adds up what one of the sessions of the last count, no superuser's, was given on the nodes that
   * it left out. Cost: the grants of its roles, however many grants others have on those nodes.
   *
   * @param into where it is added up; cleared first
   */
  void collectHard(Session session, Tally into) {
    gathering.collect(session, hard::contains, into);
    for (int i = 0; i < hard.size() && anyDown; i++) {
      int node = hard.get(i);
      into.add(node, session.given(node), session.grantable(node));
    }
  }
}
