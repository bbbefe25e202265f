/**
 * What decides on rows and columns: {@link fiador.policies.RowPolicy} and {@link
 * fiador.policies.ColumnMask} on a table, together a {@link fiador.policies.TableSight}, which says
 * how one user sees the table. {@link fiador.policies.Seeing} finds that for the users of a
 * surveyed server, {@link fiador.policies.Simulation} applies it to rows. {@link
 * fiador.policies.Bypass} finds who gets round it: {@code Openings} are the views and routines
 * above a table, {@code Flow} what each shows of it.
 */
package fiador.policies;
