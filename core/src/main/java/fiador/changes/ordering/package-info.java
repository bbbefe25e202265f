/**
 * An order of steps in which nobody temporarily gains access they have neither before nor after:
 * {@link fiador.changes.ordering.SafeOrder} for grants, {@link fiador.changes.ordering.SightOrder}
 * for rows and columns, {@link fiador.changes.ordering.Transactions} where a server can change a
 * database at once.
 */
package fiador.changes.ordering;
