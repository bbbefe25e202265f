/**
 * Live servers over JDBC. One small interface, {@link fiador.servers.kind.Server}, and one package
 * per kind of server with its surveyor (reads the catalog into the core's model) and its dialect
 * (writes SQL); {@code fiador.sqltext.lineage} reads the texts of views and routines. Everything
 * read is read in set-based queries, a handful per database.
 */
package fiador.servers;
