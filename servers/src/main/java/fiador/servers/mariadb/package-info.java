/**
 * MariaDB: the surveyor reads the grant tables of the schema {@code mysql} as they are and leaves
 * to the core which of several rows counts; {@link fiador.servers.mariadb.ViewText} finds out what
 * a view reads from its text, since the catalog does not say.
 */
package fiador.servers.mariadb;
