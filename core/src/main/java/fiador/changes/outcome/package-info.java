/**
 * What steps come to. {@link fiador.changes.outcome.Outcome} works them into an estate, with {@code
 * GrantsAfter} and {@code MembershipsAfter} on common {@code Ground}; {@link
 * fiador.changes.outcome.PeopleEffects} and {@link fiador.changes.outcome.SightEffects} say what
 * people gain, lose and see, {@link fiador.changes.outcome.Done} which steps a server already
 * shows.
 */
package fiador.changes.outcome;
