package fiador.grants;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.rules.HouseFact;
import java.util.List;

/**
 * What objects still to be created will come with.
 *
 * @param creator whose objects, or -1 for everybody's
 * @param in the schema, or the database for all its schemas
 * @param kind the kind of object: table (views too), sequence, routine, schema
 * @param replaces true when {@code given} takes the place of the built-in defaults, false when it
 *     adds to them
 * @param given to whom what
 */
public record LaterGrant(int creator, int in, NodeKind kind, boolean replaces, List<Given> given) {

  /**
   * What everybody gets on the things that somebody will create where nothing was said otherwise.
   * Cost: the grants for later things.
   *
   * @param creator by name: a role that each database has one of stands for that database's
   * @param in the schema, or the database for all its schemas
   */
  public static long openToAll(Access access, String creator, int in, NodeKind kind) {
    boolean open = kind == NodeKind.ROUTINE && access.rules().has(HouseFact.ROUTINES_OPEN_TO_ALL);
    if (!open || access.tree().kind(in) != NodeKind.DATABASE) {
      return 0;
    }
    boolean replaced =
        access.later().stream()
            .anyMatch(
                later ->
                    later.replaces()
                        && later.creator() >= 0
                        && access.principals().name(later.creator()).equals(creator)
                        && later.in() == in
                        && later.kind() == kind);
    return replaced ? 0 : Privilege.EXECUTE.bit();
  }

  /**
   * One entry.
   *
   * @param grantee a principal
   * @param privileges the privileges
   * @param grantable those that may be granted on
   */
  public record Given(int grantee, long privileges, long grantable) {}
}
