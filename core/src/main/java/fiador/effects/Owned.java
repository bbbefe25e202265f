package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;

/** What a single principal has by owning. */
public final class Owned {
  private final Access access;

  /** For that estate. */
  public Owned(Access access) {
    this.access = access;
  }

  /**
   * The privileges the principal has on the node as its owner, and so needs no grant for. A grant
   * on a container may reach what is in it, which owning the container alone does not.
   */
  public long owned(int principal, int node) {
    long reaching =
        access.rules().ownership() == Ownership.OBJECT
                && access.rules().has(HouseFact.SCHEMA_GRANTS_REACH_DOWN)
            ? onWhatIsIn(access.tree().kind(node))
            : 0;
    return all(principal, node) & ~reaching;
  }

  private long all(int principal, int node) {
    Tree tree = access.tree();
    Ownership ownership = access.rules().ownership();
    int home = ownership == Ownership.SCHEMA ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    boolean owns = ownership != Ownership.NONE && home >= 0 && tree.owner(home) == principal;
    return owns ? access.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node) : 0;
  }

  private long onWhatIsIn(NodeKind container) {
    long privileges = 0;
    for (NodeKind kind : NodeKind.values()) {
      if ((container.inside() & kind.bit()) != 0) {
        privileges |= access.rules().privilegesOn(kind);
      }
    }
    return privileges;
  }

  /** Those that the owner can grant there. */
  public long grantable(int principal, int node) {
    return principal >= 0 && access.ownersGrant(principal) ? all(principal, node) : 0;
  }
}
