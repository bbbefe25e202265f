package fiador.servers.postgresql;

import fiador.estate.ColumnType;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.servers.jdbc.Sql;
import java.sql.Array;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Reads the schemas, relations with their columns, and routines of one database. */
final class ObjectReader {
  /** Schemas of temporary and toast tables come and go with sessions and tables. */
  private static final String SCHEMAS =
      """
      select oid, nspname, nspowner,
             nspname ~ '^pg_' or nspname in ('information_schema', 'fiador_guard') as system
        from pg_namespace
       where nspname !~ '^pg_(toast|temp_)'
       order by nspname
      """;

  /**
   * A dropped column may keep its ACL, so only living ones are read; a system column stands here
   * only if somebody granted on it. Below 12000 lie the catalogs that only superusers may write.
   */
  private static final String RELATIONS =
      """
      select c.oid, c.relname, c.relnamespace, c.relowner, c.relkind,
             c.oid < 12000 and c.relkind <> 'v' as guarded,
             coalesce(lower(array_to_string(c.reloptions, ','))
                 ~ '(^|,)security_invoker=(true|on|yes|1|t|y)(,|$)', false) as invoker,
             a.names, a.types
        from pg_class c
        left join (
             select attrelid,
                    array_agg(attname::text order by attnum < 0, attnum) as names,
                    array_agg(case when not coalesce(l.collisdeterministic, true) then 'other'
                         when atttypid in ('text'::regtype, 'varchar'::regtype) then 'text'
                         when atttypid = 'bpchar'::regtype then 'padded'
                         when atttypid in ('int2'::regtype, 'int4'::regtype, 'int8'::regtype)
                              then 'integer'
                         when atttypid = 'numeric'::regtype then 'decimal'
                         when atttypid in ('float4'::regtype, 'float8'::regtype) then 'float'
                         when atttypid = 'date'::regtype then 'date'
                         when atttypid = 'timestamp'::regtype then 'timestamp'
                         when atttypid = 'bool'::regtype then 'boolean'
                         else 'other' end order by attnum < 0, attnum)
                        filter (where attrelid >= 16384) as types
               from pg_attribute
               left join pg_collation l on l.oid = attcollation
              where (attnum > 0 and not attisdropped) or (attnum < 0 and attacl is not null)
              group by attrelid) a on a.attrelid = c.oid
       where c.relkind in ('r', 'p', 'f', 'v', 'm', 'S')
         and c.relpersistence <> 't'
       order by c.relnamespace, c.oid
      """;

  private static final String ROUTINES =
      """
      select oid, proname, pronamespace, proowner, prosecdef,
             oidvectortypes(proargtypes) as arguments
        from pg_proc
       order by pronamespace, oid
      """;

  private final Database database;
  private final EstateBuilder estate;

  ObjectReader(Database database) {
    this.database = database;
    this.estate = database.catalog().builder().estate();
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(connection, SCHEMAS, this::schema);
    Sql.rows(connection, RELATIONS, this::relation);
    Sql.rows(connection, ROUTINES, this::routine);
  }

  private void schema(ResultSet row) throws SQLException {
    int node =
        estate.node(
            database.node(),
            NodeKind.SCHEMA,
            row.getString("nspname"),
            database.principal(row.getLong("nspowner")));
    if (row.getBoolean("system")) {
      estate.fact(node, NodeFact.SYSTEM);
    }
    database.schemas().put(row.getLong("oid"), node);
  }

  private void relation(ResultSet row) throws SQLException {
    int schema = database.schemas().get(row.getLong("relnamespace"));
    if (schema < 0) {
      return;
    }
    int node =
        estate.node(
            schema,
            kind(row.getString("relkind")),
            row.getString("relname"),
            database.principal(row.getLong("relowner")));
    if (row.getBoolean("guarded")) {
      estate.fact(node, NodeFact.GUARDED);
    }
    if (row.getBoolean("invoker")) {
      estate.fact(node, NodeFact.INVOKER);
    }
    Array columns = row.getArray("names");
    if (columns != null && !"S".equals(row.getString("relkind"))) {
      Array types = row.getArray("types");
      String[] known = types == null ? null : (String[]) types.getArray();
      String[] names = (String[]) columns.getArray();
      for (int i = 0; i < names.length; i++) {
        estate.column(names[i]);
        if (known != null) {
          estate.type(ColumnType.named(known[i]));
        }
      }
    }
    database.relations().put(row.getLong("oid"), node);
  }

  private static NodeKind kind(String relkind) {
    return switch (relkind) {
      case "v" -> NodeKind.VIEW;
      case "m" -> NodeKind.MATERIALIZED_VIEW;
      case "S" -> NodeKind.SEQUENCE;
      default -> NodeKind.TABLE;
    };
  }

  private void routine(ResultSet row) throws SQLException {
    int schema = database.schemas().get(row.getLong("pronamespace"));
    if (schema < 0) {
      return;
    }
    int node =
        estate.node(
            schema,
            NodeKind.ROUTINE,
            row.getString("proname") + "(" + row.getString("arguments") + ")",
            database.principal(row.getLong("proowner")));
    if (!row.getBoolean("prosecdef")) {
      estate.fact(node, NodeFact.INVOKER);
    }
    database.routines().put(row.getLong("oid"), node);
  }
}
