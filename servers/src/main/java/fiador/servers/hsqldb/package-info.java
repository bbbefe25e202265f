/**
 * HSQLDB 2.7, embedded or behind its own server.
 *
 * <p>Its information schema shows a session only the grants of its own roles. The complete list is
 * what the server's own script says (read by {@code GrantScript}); that in turn leaves out grant
 * options, which {@code GrantOptions} asks in the name of each user.
 */
package fiador.servers.hsqldb;
