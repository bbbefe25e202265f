/**
 * Ways from one server to another: {@link fiador.across.Atlas} holds the surveys of several servers
 * and says which of them an address means; {@link fiador.across.Crossing} follows a foreign table
 * to the rows behind it, with the login that is used there; {@link fiador.across.Inflows} looks the
 * other way, at who comes to a table from other servers.
 */
@NullMarked
package fiador.across;

import org.jspecify.annotations.NullMarked;
