package fiador.effects;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Reads;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Whether a view or routine works for those who may use it: whether a view that may be selected
 * from can really be read: its owner, or the asker where the view reads with the asker's rights,
 * must be able to read what lies under it, through views of views. Routines that a view calls run
 * on the asker's right to execute them, where the owner does not stand for the asker. Gates do not
 * matter under a view, but for those of what is sealed: names were looked up when it was made.
 */
final class ViewReading {
  private final Access access;
  private final Sessions sessions;
  private final Gates gates;

  ViewReading(Access access, Sessions sessions) {
    this.access = access;
    this.sessions = sessions;
    this.gates = new Gates(access);
  }

  /** Whether the use of a privilege depends on what lies under a view or in a routine. */
  static boolean usesWhatIsInside(long privilege) {
    return privilege == Privilege.SELECT.bit() || privilege == Privilege.EXECUTE.bit();
  }

  /**
   * What keeps a view from being read.
   *
   * @param who the principal who would need a right; {@link None#PRINCIPAL} where the view's owner
   *     is gone
   * @param under the node that cannot be used
   */
  record Obstacle(int who, int under) {}

  /**
   * What keeps {@code asker} from reading the node although they may select from it; null if
   * nothing.
   */
  Obstacle obstacle(int node, Session asker) {
    Reads reads = access.reads();
    if (access.tree().kind(node) == NodeKind.ROUTINE) {
      return routineObstacle(node, asker);
    }
    boolean checks = access.rules().has(HouseFact.CHECKS_UNDER_VIEWS);
    boolean nothing = !checks && access.tree().sealed().size() == 0;
    if (nothing || access.tree().kind(node) != NodeKind.VIEW) {
      return null;
    }
    Set<Reading> seen = new HashSet<>();
    Deque<Reading> views = new ArrayDeque<>(List.of(new Reading(node, asker)));
    while (!views.isEmpty()) {
      Reading reading = views.pop();
      int view = reading.view();
      if (!seen.add(reading)) {
        continue;
      }
      if (access.tree().is(view, NodeFact.ORPHANED)) {
        return new Obstacle(None.PRINCIPAL, view);
      }
      Session reader = readerOf(view, reading.asker());
      Session onward = access.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER) ? reader : asker;
      for (int at = reads.byView().from(view); at < reads.byView().to(view); at++) {
        int row = reads.byView().row(at);
        int under = reads.under().get(row);
        boolean routine = access.tree().kind(under) == NodeKind.ROUTINE;
        Session who = routine ? onward : reader;
        long needed = routine ? Privilege.EXECUTE.bit() : Privilege.SELECT.bit();
        if (checks && !who.covers(under, needed, reads.columns().get(row))
            || gates.isSealedFrom(under, who)) {
          return new Obstacle(who.self(), under);
        }
        Obstacle within = routine ? routineObstacle(under, who) : null;
        if (within != null) {
          return within;
        }
        if (access.tree().kind(under) == NodeKind.VIEW) {
          views.add(new Reading(under, onward));
        }
      }
    }
    return null;
  }

  /** A routine that runs as its owner does not run when the owner may not execute it. */
  private Obstacle routineObstacle(int routine, Session asker) {
    boolean asAsker = access.tree().is(routine, NodeFact.INVOKER);
    if (!access.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER) || asAsker) {
      return null;
    }
    int owner = access.tree().owner(routine);
    if (owner < 0) {
      return access.tree().is(routine, NodeFact.ORPHANED)
          ? new Obstacle(None.PRINCIPAL, routine)
          : null;
    }
    // who runs their own routine keeps the role they have on
    boolean deputy = access.tree().is(routine, NodeFact.DEPUTIZED);
    boolean own = owner == asker.user() && !deputy;
    Session runner = own ? asker : sessions.owner(owner);
    boolean runs = (runner.whole(routine) & Privilege.EXECUTE.bit()) != 0;
    return runs && (own || mayEnter(runner, owner, routine)) ? null : new Obstacle(owner, routine);
  }

  /**
   * Whether an owner gets into the schema where the routine is to run: by something on the whole of
   * it, whoever has it, or by something of their own on a thing in it. What everybody has on single
   * things lets nobody in there.
   */
  private boolean mayEnter(Session runner, int owner, int routine) {
    int schema = access.tree().enclosing(routine, NodeKind.SCHEMA);
    if (runner.isSuperuser() || schema < 0 || runner.given(schema) != 0) {
      return true;
    }
    IntArrayList accounts = IntArrayList.of(owner);
    for (int other : access.accounts().sameName(owner)) {
      accounts.add(other);
    }
    var grants = access.grants();
    for (int account : accounts) {
      for (int place = grants.byGrantee().from(account);
          place < grants.byGrantee().to(account);
          place++) {
        int node = grants.node(grants.byGrantee().row(place));
        if (access.tree().isInside(node, schema)) {
          return true;
        }
      }
    }
    return false;
  }

  private record Reading(int view, Session asker) {}

  private Session readerOf(int view, Session asker) {
    int owner = ownerOf(view);
    if (access.tree().is(view, NodeFact.INVOKER) || owner < 0) {
      return asker;
    }
    return sessions.owner(owner);
  }

  private int ownerOf(int view) {
    int owner = access.tree().owner(view);
    int schema = access.tree().enclosing(view, NodeKind.SCHEMA);
    return owner >= 0 || schema < 0 ? owner : access.tree().owner(schema);
  }
}
