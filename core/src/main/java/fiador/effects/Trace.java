package fiador.effects;

import fiador.estate.Privilege;
import java.math.BigInteger;
import java.util.List;

/**
 * The whole answer to "may this user do that, through what, and why not".
 *
 * @param user who
 * @param privilege what
 * @param node on what
 * @param column the column's ordinal, or -1 when the whole object was asked for
 * @param state the best state, or null when nothing gives it on all that was asked for
 * @param grantable whether it may be granted on
 * @param paths the shortest ways, shortest first
 * @param pathCount how many ways there are; roles in a cycle count as one
 * @param gates the gates on the way and whether the user, or the role switched to, passes them
 * @param obstacles why not; empty when it works
 * @param remedies what would make it work, the smallest first
 */
public record Trace(
    int user,
    Privilege privilege,
    int node,
    int column,
    State state,
    boolean grantable,
    List<Path> paths,
    BigInteger pathCount,
    List<PassedGate> gates,
    List<Obstacle> obstacles,
    List<Remedy> remedies) {

  /** True when it works, at once or after switching. */
  public boolean works() {
    return state != null && state.works();
  }

  /**
   * A gate on the way.
   *
   * @param container where it stands
   * @param privilege what it asks for
   * @param by the principal through whom it is passed, or -1 when it is not
   */
  public record PassedGate(int container, Privilege privilege, int by) {}
}
