package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.HouseRules.Ownership;
import fiador.grants.Terms;
import java.util.Arrays;

/** What a single principal was given itself, its roles not looked at. */
public final class Held {
  private final Access access;

  /** For that estate. */
  public Held(Access access) {
    this.access = access;
  }

  /**
   * The privileges the principal was given directly on the node, by grants or as its owner.
   *
   * @param columns ordinals, empty for the whole node
   * @param grantable whether only what may be granted on counts
   * @return a set of privileges
   */
  public long directly(int principal, int node, int[] columns, boolean grantable) {
    Grants grants = access.grants();
    long whole = owned(principal, node);
    long[] byColumn = new long[columns.length];
    for (int at = grants.byNode().from(node); at < grants.byNode().to(node); at++) {
      int row = grants.byNode().row(at);
      if (grants.grantee(row) != principal) {
        continue;
      }
      Terms terms = grants.terms(row);
      long given = grantable ? terms.grantable() : terms.privileges();
      if (grants.columns(row) == ColumnSets.WHOLE) {
        whole |= given;
      } else {
        int[] on = access.columnSets().ordinals(grants.columns(row));
        for (int i = 0; i < columns.length; i++) {
          byColumn[i] |= Arrays.binarySearch(on, columns[i]) >= 0 ? given : 0;
        }
      }
    }
    long onColumns = columns.length == 0 ? 0 : -1;
    for (long given : byColumn) {
      onColumns &= given;
    }
    return whole | onColumns;
  }

  private long owned(int principal, int node) {
    Tree tree = access.tree();
    Ownership ownership = access.rules().ownership();
    int home = ownership == Ownership.SCHEMA ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    boolean owns = ownership != Ownership.NONE && home >= 0 && tree.owner(home) == principal;
    return owns ? access.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node) : 0;
  }
}
