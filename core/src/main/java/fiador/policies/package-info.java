/**
 * What decides on rows and columns: {@link fiador.policies.RowPolicy} and {@link
 * fiador.policies.ColumnMask} on a table, together a {@link fiador.policies.TableSight}, which says
 * how one user sees the table.
 */
package fiador.policies;
