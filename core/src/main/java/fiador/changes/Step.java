package fiador.changes;

import fiador.estate.NodeKind;
import java.util.List;

/** One thing to do on a server, by names as the server stores them. */
public sealed interface Step {
  /** A name: the database where the server has such a level, else null; then schema and object. */
  record On(NodeKind kind, String database, List<String> parts) {}

  /** Creates a role. */
  record CreateRole(String role) implements Step {}

  /** Creates a user; its secret is asked for when the step is carried out. */
  record CreateUser(String user) implements Step {}

  /** Gives a role. */
  record GiveRole(String role, String member) implements Step {}

  /**
   * Grants.
   *
   * @param privileges a set of privileges
   * @param columns the columns, empty for the whole
   */
  record Grant(long privileges, On on, List<String> columns, String grantee, boolean grantOption)
      implements Step {}

  /**
   * Grants on what will be created.
   *
   * @param creator whose objects
   * @param schema in which schema
   * @param kind the kind of object
   */
  record GrantLater(
      String creator,
      On schema,
      NodeKind kind,
      long privileges,
      String grantee,
      boolean grantOption)
      implements Step {}
}
