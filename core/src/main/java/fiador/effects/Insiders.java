package fiador.effects;

import fiador.grants.Access;
import fiador.grants.Reach;
import it.unimi.dsi.fastutil.ints.IntArrayList;

/**
 * Who is let into what is sealed. Whoever is not cannot get there by somebody who is: servers that
 * seal let nobody set the secret of those inside, act as them or give their roles without being
 * inside as well. Cost: where nothing is sealed none, else the roles held.
 */
public final class Insiders {
  private final Access access;
  private final Gates gates;
  private final Reach reach;

  /** In an estate; time limits are not looked at. */
  public Insiders(Access access) {
    this.access = access;
    this.gates = new Gates(access);
    this.reach = new Reach(access);
  }

  /** Whether a seal keeps a user or role out of a thing, with all roles they hold. */
  public boolean isOut(int who, int node) {
    return gates.isSealed(node) && gates.isSealedFrom(node, session(who));
  }

  /** Whether another is let in somewhere where the first is not. */
  public boolean isBeyond(int who, int other) {
    if (access.tree().sealed().size() == 0) {
      return false;
    }
    Session mine = session(who);
    Session theirs = session(other);
    for (int i = 0; i < access.tree().sealed().size(); i++) {
      int container = access.tree().sealed().get(i);
      if (gates.isSealedFrom(container, mine) && !gates.isSealedFrom(container, theirs)) {
        return true;
      }
    }
    return false;
  }

  private Session session(int who) {
    IntArrayList held = new IntArrayList(reach.up(who));
    return new Session(access, Long.MIN_VALUE, who, held);
  }
}
