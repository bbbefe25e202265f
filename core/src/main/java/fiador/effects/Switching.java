package fiador.effects;

import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntList;
import java.time.Clock;
import org.jspecify.annotations.Nullable;

/** Which role somebody has to switch to before they can do something, or that to none. */
public final class Switching {
  private Switching() {}

  /**
   * The switch; null where they need none, and where none helps. Cost: a trace.
   *
   * @param column an ordinal, or -1 for the whole object
   */
  public static @Nullable Switch first(
      Access access, Clock clock, int user, Privilege privilege, int node, int column) {
    Trace trace = new Tracer(access, clock).trace(user, privilege, node, column, 1);
    if (trace.state() != State.ON_REQUEST || trace.paths().isEmpty()) {
      return null;
    }
    Path first = trace.paths().get(0);
    return first.switched() == 0 || first.state() != State.ON_REQUEST
        ? byTrying(access, clock, trace)
        : new Switch(access.principals().name(first.chain()[first.switched()]));
  }

  /** The switch after which it works, by trying each; null for none. */
  private static @Nullable Switch byTrying(Access access, Clock clock, Trace trace) {
    // a role is tried before none, so that what it gives stays
    int[] found = {None.PRINCIPAL};
    new Holdings(access, clock, true)
        .inEachSession(
            trace.user(),
            trace.node(),
            (login, acting, rows) -> {
              boolean better = found[0] < 0 || found[0] == trace.user();
              boolean works =
                  rows.stream()
                      .anyMatch(
                          row ->
                              row.privilege() == trace.privilege()
                                  && row.state() == State.LIVE
                                  && (row.columns() == null
                                      || trace.column() >= 0 && row.columns().get(trace.column())));
              found[0] = better && works ? acting.self() : found[0];
            });
    if (found[0] < 0) {
      return null;
    }
    return found[0] == trace.user()
        ? Switch.TO_NONE
        : new Switch(access.principals().name(found[0]));
  }

  /** The roles somebody can switch to, themselves left out. Cost: the roles reached. */
  public static IntList rolesOf(Access access, Clock clock, int user) {
    IntArrayList roles = new RoleWalk(access, clock.instant().getEpochSecond()).switchable(user);
    roles.rem(user);
    return roles;
  }
}
