/**
 * Addresses, logins, and plain statements over JDBC; every text from a server is cleaned where it
 * becomes a message.
 */
package fiador.servers.jdbc;
