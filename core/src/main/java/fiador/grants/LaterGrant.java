package fiador.grants;

import fiador.estate.NodeKind;
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
   * One entry.
   *
   * @param grantee a principal
   * @param privileges the privileges
   * @param grantable those that may be granted on
   */
  public record Given(int grantee, long privileges, long grantable) {}
}
