/**
 * What a kind of server has to bring: {@link fiador.servers.kind.Server} reads one, {@link
 * fiador.servers.kind.Dialect} writes its statements.
 */
package fiador.servers.kind;
