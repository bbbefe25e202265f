package fiador.effects;

import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashMap;
import java.util.Map;

/** The sessions one user can have, each made once it is asked for; of one user at a time. */
final class UserSessions {
  private final Sessions maker;
  private final RoleWalk walk;
  private final Map<Integer, Session> made = new HashMap<>();
  private int user = -1;

  UserSessions(Sessions maker, RoleWalk walk) {
    this.maker = maker;
    this.walk = walk;
  }

  /** From now on they are this user's; those of another are forgotten. */
  void about(int other) {
    if (user != other) {
      made.clear();
      user = other;
    }
  }

  /** The one after switching to a role; after login where it is the user. */
  Session of(int principal) {
    return made.computeIfAbsent(
        principal, id -> user == id ? maker.login(id) : maker.after(user, id));
  }

  /** Whether a grant may count after login or after some switch. */
  boolean mayCount(Grants grants, int row) {
    IntArrayList ways = walk.switchable(user);
    for (int i = 0; i < ways.size(); i++) {
      if (of(ways.getInt(i)).counts(grants, row)) {
        return true;
      }
    }
    return false;
  }
}
