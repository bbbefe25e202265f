package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.Ownership;

/** What a single principal has by owning. */
public final class Owned {
  private final Access access;

  /** For that estate. */
  public Owned(Access access) {
    this.access = access;
  }

  /** The privileges the principal has on the node as its owner. */
  public long owned(int principal, int node) {
    Tree tree = access.tree();
    Ownership ownership = access.rules().ownership();
    int home = ownership == Ownership.SCHEMA ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    boolean owns = ownership != Ownership.NONE && home >= 0 && tree.owner(home) == principal;
    return owns ? access.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node) : 0;
  }

  /** Those of them that the owner can grant on. */
  public long grantable(int principal, int node) {
    return principal >= 0 && access.ownersGrant(principal) ? owned(principal, node) : 0;
  }
}
