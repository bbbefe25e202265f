/**
 * What a kind of server has to bring: {@link fiador.servers.kind.Server} reads one, {@link
 * fiador.servers.kind.Dialect} writes its statements, {@link fiador.servers.kind.SecretSql} those
 * about secrets.
 */
package fiador.servers.kind;
