package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;

/**
 * Follows memberships in both directions, breadth first and without recursion, so that cycles and
 * long chains do no harm. Cost of a walk: the edges it sees. Remembers what it saw from walk to
 * walk, so one instance is for one thread.
 */
final class RoleWalk {
  /** Which memberships a walk follows. */
  enum Along {
    /** Those that are on without switching. */
    INHERIT,
    /** Those that allow switching. */
    SET
  }

  private final Memberships memberships;
  private final boolean enforcesTime;
  private final long now;
  private final int[] seenInRound;
  private int round;

  RoleWalk(Access access, long epochSecond) {
    this.memberships = access.memberships();
    this.enforcesTime = access.rules().has(HouseFact.ENFORCES_TIME);
    this.now = epochSecond;
    this.seenInRound = new int[access.principals().size()];
  }

  /** All that {@code start} reaches towards roles, itself first, nearest first. */
  IntArrayList up(int start, Along along) {
    return walk(IntArrayList.of(start), along, true, false);
  }

  /** All that {@code starts} reach towards roles, those first. */
  IntArrayList up(IntArrayList starts, Along along) {
    return walk(starts, along, true, false);
  }

  /** Whom a user can switch to, the user first: what everybody was given is theirs too. */
  IntArrayList switchable(int user) {
    IntArrayList reached = walk(IntArrayList.of(user, Principals.PUBLIC), Along.SET, true, false);
    reached.rem(Principals.PUBLIC);
    return reached;
  }

  /** As {@link #up}, but memberships whose time is over count too. */
  IntArrayList upIgnoringTime(int start) {
    return walk(IntArrayList.of(start), Along.INHERIT, true, true);
  }

  /** All that reach one of {@code starts} from the members' side, those first. */
  IntArrayList down(IntArrayList starts, Along along) {
    return walk(starts, along, false, false);
  }

  /** As {@link #down}, but memberships whose time is over count too. */
  IntArrayList downIgnoringTime(int start) {
    return walk(IntArrayList.of(start), Along.INHERIT, false, true);
  }

  /** Whether an edge counts for a walk. */
  boolean follows(int edge, Along along) {
    Membership options = memberships.options(edge);
    return (along == Along.INHERIT ? options.inherit() : options.set())
        && !(enforcesTime && options.isOver(now));
  }

  private boolean isNew(int principal) {
    boolean fresh = seenInRound[principal] != round;
    seenInRound[principal] = round;
    return fresh;
  }

  private IntArrayList walk(IntArrayList starts, Along along, boolean up, boolean ignoreTime) {
    Adjacency edges = up ? memberships.rolesOf() : memberships.membersOf();
    IntArrayList reached = new IntArrayList();
    round++;
    for (int i = 0; i < starts.size(); i++) {
      if (isNew(starts.getInt(i))) {
        reached.add(starts.getInt(i));
      }
    }
    for (int at = 0; at < reached.size(); at++) {
      int principal = reached.getInt(at);
      for (int place = edges.from(principal); place < edges.to(principal); place++) {
        int edge = edges.row(place);
        int next = up ? memberships.role(edge) : memberships.member(edge);
        boolean counts = ignoreTime ? memberships.options(edge).inherit() : follows(edge, along);
        if (counts && isNew(next)) {
          reached.add(next);
        }
      }
    }
    return reached;
  }
}
