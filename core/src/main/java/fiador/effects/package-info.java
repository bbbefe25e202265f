/**
 * What grants amount to: who holds what, through what, in which state, and why not.
 *
 * <p>{@link fiador.effects.RoleWalk} follows memberships. A {@link fiador.effects.Session} is a set
 * of roles that are on together, and answers point questions; a user has one session after login
 * and one more for each role that switching on adds anything. {@link fiador.effects.Holdings} reads
 * the relation from the user's end, {@link fiador.effects.Holders} from the object's, {@link
 * fiador.effects.SourceCounts} says what brings its holders their rights, {@link
 * fiador.effects.Tracer} explains one pair: {@link fiador.effects.WaySearch} has the ways to it,
 * found by {@link fiador.effects.PathSearch} in the {@link fiador.effects.ChainGraph} of all that
 * the user can reach. All of them share {@link fiador.effects.Gates} (what must be held on
 * containers) and {@link fiador.effects.ViewReading} (what lies under a view).
 *
 * <p>Where it is only asked how many, {@link fiador.effects.QuickCount} counts 64 nodes at a time:
 * {@link fiador.effects.RoleMasks} adds up what each role has in {@link fiador.effects.NodeMasks},
 * whose bits stand in {@link fiador.effects.MaskRows}, with what comes down from {@link
 * fiador.effects.Descents}; {@link fiador.effects.NodeBlocks} knows which nodes lie together,
 * {@link fiador.effects.BlockGates} what keeps them from working, and {@link
 * fiador.effects.Switched} what sessions after a switch add.
 */
package fiador.effects;
