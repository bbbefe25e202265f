package fiador.effects;

import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Memberships;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/**
 * The roles that somebody can switch to without having them on already, and superusers: all others
 * give their switchers nothing that is not live anyway.
 */
final class BehindSwitch {
  /** After so many questions, all memberships have been looked through for less. */
  private static final int SOME = 8;

  private final Principals principals;
  private final Memberships memberships;
  private final RoleWalk walk;
  private int asked;
  private @Nullable BitSet all;

  BehindSwitch(Access access, RoleWalk walk) {
    this.principals = access.principals();
    this.memberships = access.memberships();
    this.walk = walk;
  }

  /**
   * At least those that are among some principals. Cost: the memberships below these; from the
   * ninth call on, those of the whole server once and nothing after that.
   *
   * @return not to be written to
   */
  BitSet among(IntArrayList some) {
    asked++;
    if (all != null || asked > SOME) {
      return all();
    }
    return upFrom(walk.down(some, RoleWalk.Along.SET));
  }

  /**
   * All of them. Cost: all memberships, once.
   *
   * @return not to be written to
   */
  BitSet all() {
    if (all == null) {
      IntArrayList everyone = new IntArrayList();
      for (int id = 0; id < principals.size(); id++) {
        everyone.add(id);
      }
      all = upFrom(everyone);
    }
    return all;
  }

  /** Those among some that are switched to from one membership at least, and what is above. */
  private BitSet upFrom(IntArrayList some) {
    IntArrayList starts = new IntArrayList();
    for (int i = 0; i < some.size(); i++) {
      if (isSwitchedTo(some.getInt(i))) {
        starts.add(some.getInt(i));
      }
    }
    BitSet found = new BitSet();
    IntArrayList above = walk.up(starts, RoleWalk.Along.SET);
    for (int i = 0; i < above.size(); i++) {
      found.set(above.getInt(i));
    }
    for (int i = 0; i < principals.powerful().size(); i++) {
      if (principals.has(principals.powerful().getInt(i), Power.SUPERUSER)) {
        found.set(principals.powerful().getInt(i));
      }
    }
    return found;
  }

  private boolean isSwitchedTo(int role) {
    int to = memberships.membersOf().to(role);
    for (int place = memberships.membersOf().from(role); place < to; place++) {
      int edge = memberships.membersOf().row(place);
      if (walk.follows(edge, RoleWalk.Along.SET) && !walk.follows(edge, RoleWalk.Along.INHERIT)) {
        return true;
      }
    }
    return false;
  }
}
