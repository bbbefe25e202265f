package fiador.effects;

import fiador.estate.Privilege;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntList;
import java.time.Clock;

/** Which role somebody has to switch to before they can do something. */
public final class Switching {
  private Switching() {}

  /**
   * The role's name; null where they need none, and where none helps. Cost: a trace.
   *
   * @param column an ordinal, or -1 for the whole object
   */
  public static String roleFor(
      Access access, Clock clock, int user, Privilege privilege, int node, int column) {
    Trace trace = new Tracer(access, clock).trace(user, privilege, node, column, 1);
    if (trace.state() != State.ON_REQUEST || trace.paths().isEmpty()) {
      return null;
    }
    Path first = trace.paths().get(0);
    return access.principals().name(first.chain()[first.switched()]);
  }

  /** The roles somebody can switch to, themselves left out. Cost: the roles reached. */
  public static IntList rolesOf(Access access, Clock clock, int user) {
    IntArrayList roles = new RoleWalk(access, clock.instant().getEpochSecond()).switchable(user);
    roles.rem(user);
    return roles;
  }
}
