package fiador.effects;

import fiador.estate.None;
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
    int role = first.chain()[first.switched()];
    if (first.switched() == 0) {
      role = leavingBehind(access, clock, trace);
    }
    return role < 0 || role == user ? null : access.principals().name(role);
  }

  /** The role to switch to only because what is on after login denies it; -1 for none. */
  private static int leavingBehind(Access access, Clock clock, Trace trace) {
    int[] found = {None.PRINCIPAL};
    new Holdings(access, clock, true)
        .inEachSession(
            trace.user(),
            trace.node(),
            (login, acting, rows) -> {
              boolean another = acting.self() != trace.user() && found[0] < 0;
              boolean works =
                  rows.stream()
                      .anyMatch(
                          row ->
                              row.privilege() == trace.privilege()
                                  && row.state() == State.LIVE
                                  && (row.columns() == null
                                      || trace.column() >= 0 && row.columns().get(trace.column())));
              found[0] = another && works ? acting.self() : found[0];
            });
    return found[0];
  }

  /** The roles somebody can switch to, themselves left out. Cost: the roles reached. */
  public static IntList rolesOf(Access access, Clock clock, int user) {
    IntArrayList roles = new RoleWalk(access, clock.instant().getEpochSecond()).switchable(user);
    roles.rem(user);
    return roles;
  }
}
