package fiador.reviews;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import java.util.Set;

/**
 * What a review is about; an empty set does not limit it.
 *
 * @param schemas paths of schemas
 * @param objects paths of tables and the like, such as those that carry a label
 * @param roles names of roles that are given to people
 * @param people names of users
 */
public record Scope(
    Set<String> schemas, Set<String> objects, Set<String> roles, Set<String> people) {
  /** Everything. */
  public static final Scope ALL = new Scope(Set.of(), Set.of(), Set.of(), Set.of());

  /** Whether what is granted on a node is part of it; a server's own things never are. */
  boolean covers(Access access, int node) {
    Tree tree = access.tree();
    if (tree.isSystem(node)) {
      return false;
    }
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    if (schema < 0) {
      // what is given above schemas reaches into them
      return true;
    }
    boolean inSchema = schemas.isEmpty() || schemas.contains(tree.path(schema));
    boolean named = objects.isEmpty() || node == schema || objects.contains(tree.path(node));
    return inSchema && named;
  }

  boolean covers(Means means, String through) {
    return roles.isEmpty() || means == Means.ROLE && roles.contains(through);
  }

  boolean coversUser(String user) {
    return people.isEmpty() || people.contains(user);
  }
}
