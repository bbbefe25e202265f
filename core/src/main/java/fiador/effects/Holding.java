package fiador.effects;

import fiador.estate.Privilege;
import java.util.BitSet;

/**
 * One thing a user holds.
 *
 * @param user the holder, a principal id
 * @param privilege what may be done
 * @param node where, a node id
 * @param state whether it works
 * @param grantable whether it may be granted on
 * @param columns ordinals of the columns it is limited to, or null for the whole object
 */
public record Holding(
    int user, Privilege privilege, int node, State state, boolean grantable, BitSet columns) {}
