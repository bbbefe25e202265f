package fiador.effects;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.Gate;
import java.util.ArrayList;
import java.util.List;

/** What must be held on the containers of a node before the node can be used. */
final class Gates {
  private final Access access;

  Gates(Access access) {
    this.access = access;
  }

  /**
   * A gate on the way to a node.
   *
   * @param container where it stands
   * @param gate what it asks for
   */
  record OnTheWay(int container, Gate gate) {}

  /** The gates on the way to privileges on the node; the gate privilege itself needs none. */
  List<OnTheWay> to(int node, long privilege) {
    List<OnTheWay> found = new ArrayList<>();
    for (Gate gate : access.rules().gates()) {
      int container = access.tree().enclosing(node, gate.container());
      boolean own = container == node;
      if (container >= 0
          && access.stands(gate, container)
          && (!own || gate.ownPrivileges() && privilege != gate.privilege().bit())) {
        found.add(new OnTheWay(container, gate));
      }
    }
    return found;
  }

  /**
   * The privileges among {@code wanted} on {@code node} that a gate keeps from working.
   *
   * @param login what is on after login
   * @param acting what is on when the privilege is used: the same, or the roles after a switch
   */
  long blocked(int node, long wanted, Session login, Session acting) {
    return blocked(
        node,
        wanted,
        login.isSuperuser(),
        (gate, container) -> {
          Session who = gate.atLogin() ? login : acting;
          return (who.whole(container) & gate.privilege().bit()) != 0;
        });
  }

  /** Knows whether what a gate asks for is held. */
  interface Keys {
    /** Whether it is held on that container. */
    boolean fit(Gate gate, int container);
  }

  /**
   * As the other.
   *
   * @param past whether whoever logged in is let past all gates but those of what is sealed
   */
  long blocked(int node, long wanted, boolean past, Keys keys) {
    if (isClosed(node)) {
      return wanted;
    }
    long blocked = 0;
    for (Gate gate : access.rules().gates()) {
      if (past && !gate.sealedOnly()) {
        continue;
      }
      int container = access.tree().enclosing(node, gate.container());
      boolean here = container >= 0 && access.stands(gate, container);
      if (!here || container == node && !gate.ownPrivileges()) {
        continue;
      }
      if (!keys.fit(gate, container)) {
        // what the gate asks for does not need itself, but may need what is further out
        blocked |= container == node ? wanted & ~gate.privilege().bit() : wanted;
      }
    }
    return blocked;
  }

  /** Whether a sealed container that the node lies in, or is, keeps that session out. */
  boolean isSealedFrom(int node, Session session) {
    for (Gate gate : access.rules().gates()) {
      int container = gate.sealedOnly() ? access.tree().enclosing(node, gate.container()) : -1;
      if (container >= 0
          && access.stands(gate, container)
          && (session.whole(container) & gate.privilege().bit()) == 0) {
        return true;
      }
    }
    return false;
  }

  /** Whether the node is, or lies in, something sealed. */
  boolean isSealed(int node) {
    for (Gate gate : access.rules().gates()) {
      int container = gate.sealedOnly() ? access.tree().enclosing(node, gate.container()) : -1;
      if (container >= 0 && access.stands(gate, container)) {
        return true;
      }
    }
    return false;
  }

  /** Whether the node is, or lies in, a database that accepts no connections. */
  boolean isClosed(int node) {
    Tree tree = access.tree();
    int database = tree.enclosing(node, NodeKind.DATABASE);
    return database >= 0 && tree.is(database, NodeFact.CLOSED);
  }
}
