/**
 * PostgreSQL, versions 14 to 18.
 *
 * <p>{@link fiador.servers.postgresql.PostgresqlServer} connects; a survey goes through {@code
 * PrincipalReader} (roles, memberships, databases), then for each database {@code ObjectReader}
 * (schemas, relations, columns, routines), {@code AclReader} (who was given what), {@code
 * ViewReader} (what views read), {@code LineageReader} (what they show, and what routines read) and
 * {@code SightReader} (rows and columns). Object ids of the catalog become node ids in {@code
 * Catalog}.
 */
package fiador.servers.postgresql;
