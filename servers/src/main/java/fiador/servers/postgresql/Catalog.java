package fiador.servers.postgresql;

import fiador.grants.AccessBuilder;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.PostgresqlRules;
import it.unimi.dsi.fastutil.longs.Long2IntOpenHashMap;

/**
 * What the readers of one survey share: the builder, and which catalog id became which of ours.
 *
 * @param builder where everything is collected
 * @param rules the house rules of the server's version
 * @param major the server's major version
 * @param principals principal ids by the oid of the role; PUBLIC is oid 0
 * @param databases node ids by the oid of the database
 */
record Catalog(
    AccessBuilder builder,
    HouseRules rules,
    int major,
    Long2IntOpenHashMap principals,
    Long2IntOpenHashMap databases) {

  static final int SERVER = 0;

  Catalog(int major) {
    this(
        new AccessBuilder(),
        PostgresqlRules.of(major),
        major,
        new Long2IntOpenHashMap(),
        new Long2IntOpenHashMap());
    principals.defaultReturnValue(-1);
    databases.defaultReturnValue(-1);
    principals.put(0L, fiador.estate.Principals.PUBLIC);
  }
}
