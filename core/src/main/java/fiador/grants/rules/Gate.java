package fiador.grants.rules;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;

/**
 * A privilege on a container that is needed before anything inside can be used.
 *
 * @param container the kind of container
 * @param privilege what is needed on it
 * @param atLogin true when it is checked once, as the user logs in, so that a role switched on
 *     later cannot supply it; false when the roles that carry the source must hold it too
 * @param ownPrivileges true when also the container's other privileges need it
 * @param sealedOnly true when only sealed containers have it; those it then keeps administrators
 *     out of, too, because no power gives what it asks for there
 */
public record Gate(
    NodeKind container,
    Privilege privilege,
    boolean atLogin,
    boolean ownPrivileges,
    boolean sealedOnly) {

  /** One that all containers of the kind have. */
  public Gate(NodeKind container, Privilege privilege, boolean atLogin, boolean ownPrivileges) {
    this(container, privilege, atLogin, ownPrivileges, false);
  }

  /** One that sealed containers of the kind have. */
  public static Gate ofSealed(NodeKind container, Privilege privilege) {
    return new Gate(container, privilege, false, true, true);
  }
}
