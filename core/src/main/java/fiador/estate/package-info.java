/**
 * What there is: the tree of things privileges are on, and the principals that may hold them.
 *
 * <p>Read in this order: {@link fiador.estate.Names} (every text once, as an int), {@link
 * fiador.estate.Tree} (server, database, schema, object, column), {@link fiador.estate.Principals}
 * (users, roles, PUBLIC), {@link fiador.estate.Estate} (the two together), {@link
 * fiador.estate.EstateBuilder} (the only way to make one).
 *
 * <p>Everything is an int id into parallel arrays, so that an estate of millions of objects fits
 * into memory and a question touches few cache lines. Nothing here knows about grants.
 */
package fiador.estate;
