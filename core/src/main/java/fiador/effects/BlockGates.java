package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.rules.Gate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * What keeps the rights of a session from working, block by block: gates, for which what is held on
 * containers is read from the masks, and what lies under views and in routines.
 */
final class BlockGates {
  /**
   * A gate before the objects of a container.
   *
   * @param container where it stands
   * @param number what it asks for, in small numbers; -1 for what nobody has
   */
  private record Lock(int container, int number, boolean atLogin, boolean superusersPass) {}

  private static final byte OPEN = 1;
  private static final byte SHUT = 2;

  private final Gates gates;
  private final ViewReading views;
  private final SmallNumbers numbers;
  private final int select;
  private final int execute;

  /**
   * By container where the gates before the objects in it begin and end in the list; 0 if not
   * looked up yet, else counted from 1.
   */
  private long[] before = new long[64];

  private final List<Lock> locks = new ArrayList<>();

  /** By container whether it is open for the session; 0 where it was not asked for yet. */
  private byte[] open = new byte[64];

  private Session login;
  private Session acting;
  private NodeMasks atLogin;
  private NodeMasks now;

  BlockGates(Access access, ViewReading views, SmallNumbers numbers) {
    this.gates = new Gates(access);
    this.views = views;
    this.numbers = numbers;
    this.select = numbers.number(Privilege.SELECT.bit());
    this.execute = numbers.number(Privilege.EXECUTE.bit());
  }

  /**
   * From now on it is asked for this session, the one after login.
   *
   * @param masks what it has
   */
  void atLogin(Session session, NodeMasks masks) {
    login = session;
    atLogin = masks;
    switchTo(session, masks);
  }

  /** From now on it is asked for a session after a switch. */
  void switchTo(Session session, NodeMasks masks) {
    acting = session;
    now = masks;
    Arrays.fill(open, (byte) 0);
  }

  /** Whether the objects of a group are all alike: open, or not. */
  static boolean areAlike(int key) {
    NodeKind kind = NodeBlocks.kind(key);
    return kind.isObject() && kind != NodeKind.VIEW && kind != NodeKind.ROUTINE;
  }

  /** Those among some nodes of a group in a block on which a privilege does not work. */
  long shut(int key, int block, int privilege, long held) {
    if (held == 0) {
      return 0;
    }
    NodeKind kind = NodeBlocks.kind(key);
    if (!kind.isObject()) {
      return shutContainers(block, privilege, held);
    }
    if (!isOpen(key, block, held)) {
      return held;
    }
    boolean usesWhatIsInside =
        kind == NodeKind.VIEW && privilege == select
            || kind == NodeKind.ROUTINE && privilege == execute;
    return usesWhatIsInside ? useless(block, held) : 0;
  }

  private long shutContainers(int block, int privilege, long held) {
    long bit = numbers.privilege(privilege);
    long shut = 0;
    for (long rest = held; rest != 0; rest &= rest - 1) {
      int node = node(block, rest);
      boolean works = gates.blocked(node, bit, login.isSuperuser(), this::holds) == 0;
      shut |= works ? 0 : Long.lowestOneBit(rest);
    }
    return shut;
  }

  /** Views and routines with something under or in them that stops the session. */
  private long useless(int block, long held) {
    long useless = 0;
    for (long rest = held; rest != 0; rest &= rest - 1) {
      boolean works = views.obstacle(node(block, rest), acting) == null;
      useless |= works ? 0 : Long.lowestOneBit(rest);
    }
    return useless;
  }

  /** Whether the gates before the objects of a group in a block are open; true where none are. */
  boolean isOpen(int key, int block, long nodes) {
    if (nodes == 0) {
      return true;
    }
    int home = NodeBlocks.home(key);
    if (home >= open.length || open[home] == 0) {
      look(home, node(block, nodes));
    }
    return open[home] == OPEN;
  }

  private void look(int home, int object) {
    if (home >= open.length) {
      open = Arrays.copyOf(open, 2 * home);
      before = Arrays.copyOf(before, 2 * home);
    }
    if (before[home] == 0) {
      long first = locks.size() + 1L;
      findLocks(object);
      before[home] = first << Integer.SIZE | locks.size() + 1;
    }
    boolean fits = true;
    for (int at = (int) (before[home] >>> Integer.SIZE); at < (int) before[home]; at++) {
      fits &= fits(locks.get(at - 1));
    }
    open[home] = fits ? OPEN : SHUT;
  }

  private boolean fits(Lock lock) {
    boolean past = lock.superusersPass() && login.isSuperuser();
    return past || (lock.atLogin() ? atLogin : now).has(lock.container(), lock.number());
  }

  /** Adds the gates before an object to the list. */
  private void findLocks(int object) {
    if (gates.isClosed(object)) {
      locks.add(new Lock(object, -1, false, false));
      return;
    }
    for (Gates.OnTheWay way : gates.to(object, 0)) {
      int number = numbers.number(way.gate().privilege().bit());
      locks.add(new Lock(way.container(), number, way.gate().atLogin(), !way.gate().sealedOnly()));
    }
  }

  private boolean holds(Gate gate, int container) {
    int number = numbers.number(gate.privilege().bit());
    return (gate.atLogin() ? atLogin : now).has(container, number);
  }

  private static int node(int block, long nodes) {
    return block * NodeMasks.IN_BLOCK + Long.numberOfTrailingZeros(nodes);
  }
}
