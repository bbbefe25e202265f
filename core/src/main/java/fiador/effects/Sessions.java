package fiador.effects;

import fiador.estate.None;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashMap;
import java.util.Map;

/** Makes the sessions of a user: the one after login, and those after switching to a role. */
final class Sessions {
  private final Access access;
  private final long now;
  private final RoleWalk walk;
  private final boolean competition;
  private final boolean oneAtATime;
  private final boolean everybodyHolds;
  private final Map<Integer, Session> owners = new HashMap<>();

  Sessions(Access access, long epochSecond, RoleWalk walk) {
    this.access = access;
    this.now = epochSecond;
    this.walk = walk;
    this.competition = access.rules().has(HouseFact.ONE_ROW_COUNTS);
    this.oneAtATime = access.rules().activation() == Activation.ONE_AT_A_TIME;
    this.everybodyHolds = access.rules().has(HouseFact.EVERYBODY_HOLDS_ROLES);
  }

  /** What is on right after login. */
  Session login(int user) {
    IntArrayList reached = walk.up(user, RoleWalk.Along.INHERIT);
    if (!competition) {
      return together(user, user, reached);
    }
    reached.removeInt(0);
    // the nearest one reached is the default role; the others come with it
    int account = reached.isEmpty() ? user : through(user, reached.getInt(0));
    return competing(user, user, account, reached);
  }

  /** What is on after {@code user} has switched to {@code role}. */
  Session after(int user, int role) {
    IntArrayList reached = walk.up(role, RoleWalk.Along.INHERIT);
    if (competition) {
      return competing(role, user, through(user, role), reached);
    }
    if (!oneAtATime) {
      return together(role, role, reached);
    }
    reached.add(user);
    return together(role, user, reached);
  }

  /** What is on for {@code user} once the role that was on is off, and no other is on. */
  Session withoutRole(int user) {
    return together(user, user, IntArrayList.of(user));
  }

  /** With whose rights a view reads that reads as {@code owner}. */
  Session owner(int owner) {
    return owners.computeIfAbsent(owner, this::freshOwner);
  }

  private Session freshOwner(int owner) {
    if (!competition) {
      return together(owner, owner, walk.up(owner, RoleWalk.Along.INHERIT));
    }
    return access.principals().isUser(owner)
        ? competing(owner, owner, owner, new IntArrayList())
        : competing(owner, None.PRINCIPAL, None.PRINCIPAL, walk.up(owner, RoleWalk.Along.INHERIT));
  }

  /** A session in which everything counts that is on. */
  private Session together(int self, int user, IntArrayList reached) {
    if (everybodyHolds) {
      reached.addAll(walk.up(Principals.PUBLIC, RoleWalk.Along.INHERIT));
    }
    return new Session(access, now, self, user, reached, null);
  }

  private Session competing(int self, int user, int account, IntArrayList roles) {
    Standing standing = new Standing();
    if (user >= 0) {
      standing.account(access, account, user);
    } else {
      standing.nobody(access);
    }
    if (!roles.isEmpty()) {
      standing.role(access, roles);
    }
    standing.everybody(access, walk.up(Principals.PUBLIC, RoleWalk.Along.INHERIT));
    return new Session(access, now, self, user, standing.all(), standing);
  }

  /** The account the role was given to: the user's own, or another of the same name. */
  private int through(int user, int role) {
    if (!oneAtATime) {
      return user;
    }
    var edges = access.memberships().rolesOf();
    for (int place = edges.from(user); place < edges.to(user); place++) {
      int edge = edges.row(place);
      if (access.memberships().role(edge) == role) {
        boolean implicit = access.memberships().options(edge).implicit();
        return implicit ? access.memberships().grantor(edge) : user;
      }
    }
    return user;
  }
}
