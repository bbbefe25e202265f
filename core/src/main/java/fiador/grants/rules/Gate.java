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
 */
public record Gate(
    NodeKind container, Privilege privilege, boolean atLogin, boolean ownPrivileges) {}
