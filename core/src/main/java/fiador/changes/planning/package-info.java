/**
 * From what is wanted to steps. {@link fiador.changes.planning.Planner} has the order of the work:
 * {@link fiador.changes.planning.SightPlanner} for rows and columns, {@link
 * fiador.changes.planning.Demands} and {@link fiador.changes.planning.GrantDifference} for grants,
 * {@link fiador.changes.planning.MembershipDifference} for roles; {@link
 * fiador.changes.planning.Leaving}, {@link fiador.changes.planning.Resting} and {@link
 * fiador.changes.planning.LettingIn} for what hangs on something that goes. {@link
 * fiador.changes.planning.Ending} has what was wanted for a time that is over.
 */
package fiador.changes.planning;
