package fiador.servers.postgresql;

import fiador.estate.EstateBuilder;
import fiador.estate.None;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.servers.jdbc.Sql;
import fiador.sqltext.SqlReader;
import fiador.sqltext.lineage.LineageCollector;
import fiador.sqltext.lineage.Relations;
import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Reads what the columns of views show, from the texts of their queries, and what routines may
 * read: from their dependencies where the server parsed their body, else from its text. Routines
 * that give nothing back are left out.
 */
final class LineageReader {
  /** With an empty path each name in a text has its schema. */
  private static final String NO_PATH = "select set_config('search_path', ?, true)";

  /** In the form with few parentheses, which the parser knows better. */
  private static final String QUERIES =
      """
      select c.oid, pg_get_viewdef(c.oid, true) as query
        from pg_class c
        join pg_namespace n on n.oid = c.relnamespace
       where c.relkind in ('v', 'm') and c.oid >= 16384 and n.nspname <> 'fiador_guard'
       order by c.oid
      """;

  private static final String RELATIONS =
      """
      select c.oid, n.nspname, c.relname
        from pg_class c
        join pg_namespace n on n.oid = c.relnamespace
       where c.relkind in ('r', 'p', 'f', 'v', 'm') and c.relpersistence <> 't'
       order by c.oid
      """;

  /** The routines that people made and that return something. */
  private static final String BODIES =
      """
      select p.oid, n.nspname, p.prosrc, l.lanname,
             (select array_agg(btrim(part, ' "')) from unnest(p.proconfig) setting,
                     unnest(string_to_array(substr(setting, 13), ',')) part
               where setting like 'search_path=%') as path
        from pg_proc p
        join pg_namespace n on n.oid = p.pronamespace
        join pg_language l on l.oid = p.prolang
       where p.oid >= 16384 and n.nspname <> 'fiador_guard' and p.prokind in ('f', 'p')
         and l.lanname not in ('internal', 'c') and coalesce(p.prosrc, '') <> ''
         and (p.prorettype not in
              ('trigger'::regtype, 'event_trigger'::regtype, 'void'::regtype)
              or p.proargmodes is not null)
       order by p.oid
      """;

  private static final String PARSED_BODIES =
      """
      select d.objid as routine, d.refobjid as under, array_agg(a.attname::text) as columns
        from pg_depend d
        join pg_proc p on p.oid = d.objid
        left join pg_attribute a
               on a.attrelid = d.refobjid and a.attnum = d.refobjsubid and a.attnum <> 0
       where d.classid = 'pg_proc'::regclass and d.refclassid = 'pg_class'::regclass
         and d.objid >= 16384 and p.prorettype <> 'void'::regtype
       group by 1, 2
       order by 1, 2
      """;

  private static final Set<String> SQL = Set.of("sql", "plpgsql");

  private record Key(String schema, String name) {}

  private final Database database;
  private final AccessBuilder builder;
  private final EstateBuilder estate;
  private final Map<Key, Integer> relations = new HashMap<>();
  private final Map<String, List<Integer>> byName = new HashMap<>();

  LineageReader(Database database) {
    this.database = database;
    this.builder = database.catalog().builder();
    this.estate = builder.estate();
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(connection, RELATIONS, this::relation);
    LineageCollector lineage =
        new LineageCollector(builder, named(List.of()), new SqlReader(database.catalog().rules()));
    String path = path(connection);
    path(connection, "");
    Sql.rows(
        connection,
        QUERIES,
        row -> {
          int view = database.relations().get(row.getLong("oid"));
          if (view >= 0 && row.getString("query") != null) {
            lineage.view(view, row.getString("query").replaceFirst(";\\s*$", ""));
          }
        });
    path(connection, path);
    Sql.rows(connection, BODIES, row -> body(row, lineage));
    Sql.rows(connection, PARSED_BODIES, this::parsedBody);
  }

  private void relation(ResultSet row) throws SQLException {
    int node = database.relations().get(row.getLong("oid"));
    if (node >= 0) {
      relations.put(new Key(row.getString("nspname"), row.getString("relname")), node);
      byName.computeIfAbsent(row.getString("relname"), none -> new ArrayList<>()).add(node);
    }
  }

  private static String path(Connection connection) throws SQLException {
    String[] path = new String[1];
    Sql.rows(
        connection, "select current_setting('search_path')", row -> path[0] = row.getString(1));
    return path[0];
  }

  private static void path(Connection connection, String path) throws SQLException {
    try (PreparedStatement set = connection.prepareStatement(NO_PATH)) {
      set.setString(1, path);
      set.execute();
    }
  }

  private void body(ResultSet row, LineageCollector lineage) throws SQLException {
    int routine = database.routines().get(row.getLong("oid"));
    if (routine >= 0) {
      Array set = row.getArray("path");
      List<String> path =
          set == null
              ? List.of("public", row.getString("nspname"))
              : List.of((String[]) set.getArray());
      boolean inSql = SQL.contains(row.getString("lanname"));
      lineage.routine(routine, row.getString("prosrc"), inSql, named(path));
    }
  }

  private void parsedBody(ResultSet row) throws SQLException {
    int routine = database.routines().get(row.getLong("routine"));
    int under = database.relations().get(row.getLong("under"));
    if (routine < 0 || under < 0) {
      return;
    }
    Map<String, Integer> ordinals = estate.columnOrdinals(under);
    int[] read =
        java.util.Arrays.stream((String[]) row.getArray("columns").getArray())
            .filter(ordinals::containsKey)
            .mapToInt(ordinals::get)
            .sorted()
            .toArray();
    builder.reads(
        routine, under, read.length == 0 ? ColumnSets.WHOLE : builder.columnSets().intern(read));
  }

  /** What names mean along a path; one that is the only one of its name is meant anyway. */
  private Relations named(List<String> path) {
    return new Relations() {
      @Override
      public int node(String schema, String name) {
        if (schema != null) {
          return relations.getOrDefault(new Key(schema, name), None.NODE);
        }
        for (String each : path) {
          Integer node = relations.get(new Key(each, name));
          if (node != null) {
            return node;
          }
        }
        List<Integer> all = byName.getOrDefault(name, List.of());
        return all.size() == 1 ? all.get(0) : -1;
      }

      @Override
      public List<String> columns(int node) {
        return estate.columnNames(node);
      }
    };
  }
}
