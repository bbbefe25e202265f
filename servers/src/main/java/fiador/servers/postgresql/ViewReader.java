package fiador.servers.postgresql;

import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.servers.jdbc.Sql;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Reads what views read, from the dependencies of their rules: columns of relations, and routines.
 * The server's own catalogs do not stand there; everybody may read most of them.
 */
final class ViewReader {
  private static final String READS =
      """
      select distinct r.ev_class as view, d.refclassid = 'pg_proc'::regclass as routine,
             d.refobjid as under, a.attname
        from pg_rewrite r
        join pg_class v on v.oid = r.ev_class and v.relkind in ('v', 'm')
        join pg_depend d on d.classid = 'pg_rewrite'::regclass and d.objid = r.oid
        left join pg_class u
               on u.oid = d.refobjid and d.refclassid = 'pg_class'::regclass
        left join pg_attribute a
               on a.attrelid = d.refobjid and a.attnum = d.refobjsubid and d.refobjsubid <> 0
              and d.refclassid = 'pg_class'::regclass
       where r.ev_type = '1' and d.refobjid <> r.ev_class
         and (d.refclassid = 'pg_proc'::regclass or u.relkind in ('r', 'p', 'f', 'v', 'm'))
       order by 1, 3
      """;

  private final Database database;
  private final AccessBuilder builder;

  ViewReader(Database database) {
    this.database = database;
    this.builder = database.catalog().builder();
  }

  private record Reading(int view, int under) {}

  void read(Connection connection) throws SQLException {
    Map<Reading, IntArrayList> readings = new LinkedHashMap<>();
    Map<Integer, Map<String, Integer>> ordinals = new LinkedHashMap<>();
    Sql.rows(
        connection,
        READS,
        row -> {
          long oid = row.getLong("under");
          boolean routine = row.getBoolean("routine");
          int under = (routine ? database.routines() : database.relations()).get(oid);
          int view = database.relations().get(row.getLong("view"));
          if (view < 0 || under < 0) {
            return;
          }
          IntArrayList columns =
              readings.computeIfAbsent(new Reading(view, under), fresh -> new IntArrayList());
          String column = row.getString("attname");
          Integer ordinal =
              column == null
                  ? null
                  : ordinals.computeIfAbsent(under, builder.estate()::columnOrdinals).get(column);
          if (ordinal != null) {
            columns.add(ordinal.intValue());
          }
        });
    readings.forEach(
        (reading, columns) ->
            builder.reads(
                reading.view(),
                reading.under(),
                columns.isEmpty()
                    ? ColumnSets.WHOLE
                    : builder.columnSets().intern(columns.toIntArray())));
  }
}
