package fiador.servers.postgresql;

import it.unimi.dsi.fastutil.longs.Long2IntOpenHashMap;

/**
 * One database while it is read: its node, its own pg_database_owner, and the ids of what is in it.
 *
 * @param catalog what the whole survey shares
 * @param node the database's node
 * @param ownerRole the principal that stands for pg_database_owner here, a role local to this
 *     database because only this database's owner is a member of it
 * @param schemas node ids by oid
 * @param relations node ids by oid
 * @param routines node ids by oid
 */
record Database(
    Catalog catalog,
    int node,
    int ownerRole,
    Long2IntOpenHashMap schemas,
    Long2IntOpenHashMap relations,
    Long2IntOpenHashMap routines) {

  /** The oid of pg_database_owner, fixed since it exists. */
  static final long DATABASE_OWNER = 6171;

  Database(Catalog catalog, int node, int ownerRole) {
    this(
        catalog,
        node,
        ownerRole,
        new Long2IntOpenHashMap(),
        new Long2IntOpenHashMap(),
        new Long2IntOpenHashMap());
    schemas.defaultReturnValue(-1);
    relations.defaultReturnValue(-1);
    routines.defaultReturnValue(-1);
  }

  /** The principal an oid stands for in this database; -1 for a role that is gone. */
  int principal(long oid) {
    return oid == DATABASE_OWNER ? ownerRole : catalog.principals().get(oid);
  }
}
