package fiador.servers.postgresql;

import fiador.grants.Sights.Doubt;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * Whether a guarded schema is what Fiador itself makes, to the last trigger: who made it decides
 * what everybody sees. Only catalogs are read, nothing that stands in it.
 */
final class GuardCheck {
  /** The owner counts when nobody but an administrator could have become it. */
  private static final String OWNER =
      """
      select r.rolname, r.rolsuper, r.rolname = session_user as own
        from pg_namespace n join pg_roles r on r.oid = n.nspowner
       where n.nspname = 'fiador_guard'
      """;

  private static final String RELATIONS =
      """
      select c.relname, c.relkind, c.relowner = n.nspowner as same_owner,
             coalesce(array_to_string(c.reloptions, ','), '') as options,
             (select string_agg(a.attname || ' ' || a.atttypid::regtype, ',' order by a.attnum)
                from pg_attribute a
               where a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped) as columns,
             case when c.relkind = 'v' then pg_get_viewdef(c.oid) end as query,
             c.relrowsecurity or c.relhastriggers or c.relispartition or c.reloftype <> 0
               or exists (select from pg_policy p where p.polrelid = c.oid)
               or exists (select from pg_attrdef d where d.adrelid = c.oid)
               or exists (select from pg_inherits i where c.oid in (i.inhrelid, i.inhparent))
               or exists (select from pg_rewrite r
                           where r.ev_class = c.oid and r.rulename <> '_RETURN')
               or exists (select from pg_constraint k
                           where k.conrelid = c.oid and k.contype not in ('p', 'n'))
               or exists (select from pg_index i where i.indrelid = c.oid and not i.indisprimary)
             as altered
        from pg_class c join pg_namespace n on n.oid = c.relnamespace
       where n.nspname = 'fiador_guard' and c.relkind not in ('i', 't')
       order by 1
      """;

  /** Whatever stands in the schema depends on it. */
  private static final String OTHERS =
      """
      select pg_describe_object(d.classid, d.objid, 0) as what
        from pg_depend d join pg_namespace n on n.oid = d.refobjid
       where d.refclassid = 'pg_namespace'::regclass and n.nspname = 'fiador_guard'
         and d.classid <> 'pg_class'::regclass
         and not exists (select from pg_proc f join pg_language l on l.oid = f.prolang
                          where d.classid = 'pg_proc'::regclass and f.oid = d.objid
                            and f.proname = '%s' and f.prosrc = %s and l.lanname = 'plpgsql'
                            and f.pronargs = 0 and f.proowner = n.nspowner
                            and not f.prosecdef and f.proconfig is null)
       order by 1
      """
          .formatted(
              SafeViewSql.FUNCTION, new PostgresqlSightSql("").literal(SafeViewSql.WRITE_THROUGH));

  /** What somebody else may do there, but for looking where one may look. */
  private static final String RIGHTS =
      """
      select coalesce(r.rolname, 'PUBLIC') as who, lower(e.privilege_type) as may, x.name
        from (select n.nspname::text as name, n.nspowner as owner, n.nspacl as acl
                from pg_namespace n where n.nspname = 'fiador_guard'
              union all
              select c.relname::text, c.relowner, c.relacl
                from pg_class c join pg_namespace n on n.oid = c.relnamespace
               where n.nspname = 'fiador_guard'
              union all
              select c.relname::text, c.relowner, a.attacl
                from pg_class c join pg_namespace n on n.oid = c.relnamespace
                join pg_attribute a on a.attrelid = c.oid
               where n.nspname = 'fiador_guard' and not a.attisdropped) x
       cross join lateral aclexplode(x.acl) e
        left join pg_roles r on r.oid = e.grantee
       where e.grantee <> x.owner
         and not (e.privilege_type = 'USAGE' and x.name = 'fiador_guard')
         and not (e.privilege_type = 'SELECT'
                  and (e.grantee <> 0 or x.name = 'own_attributes' or x.name like 'lookup\\_%'))
       order by 1, 2, 3
      """;

  private static final Map<String, String> COLUMNS =
      Map.of(
          "attributes", "user_name text,attribute text,value text",
          "own_attributes", "attribute text,value text",
          "kept",
              "schema_name text,object_name text,table_schema text,table_name text,policies text,"
                  + "stored text",
          "digest_key", "value bytea");

  /** As all versions write it, once blanks, parentheses and the alias are gone. */
  private static final String OWN_ATTRIBUTES =
      "selectattribute,valuefromfiador_guard.attributesawhereuser_name=session_user::text";

  private final Connection connection;
  private final List<String> why = new ArrayList<>();

  private GuardCheck(Connection connection) {
    this.connection = connection;
  }

  /** What was found: nothing there, a schema to be believed, or one that is doubted. */
  record Result(boolean there, Doubt doubt) {
    boolean believed() {
      return there && doubt == null;
    }
  }

  /**
   * Looks.
   *
   * @param keeper the account that settles, besides superusers
   */
  static Result of(Connection connection, String keeper) throws SQLException {
    return new GuardCheck(connection).look(keeper);
  }

  private Result look(String keeper) throws SQLException {
    boolean[] there = new boolean[1];
    Sql.rows(
        connection,
        OWNER,
        row -> {
          there[0] = true;
          String owner = row.getString("rolname");
          boolean ours =
              row.getBoolean("rolsuper") || row.getBoolean("own") || owner.equals(keeper);
          if (!ours) {
            why.add("it belongs to " + owner);
          }
        });
    if (!there[0]) {
      return new Result(false, null);
    }
    if (!why.isEmpty()) {
      // whatever else is the matter with it comes from there
      return new Result(true, new Doubt(true, List.copyOf(why)));
    }
    relations();
    Sql.rows(connection, OTHERS, row -> why.add("it holds " + row.getString(1)));
    Sql.rows(
        connection,
        RIGHTS,
        row -> why.add(row.getString(1) + " may " + row.getString(2) + " on " + row.getString(3)));
    if (!why.isEmpty()) {
      return new Result(true, new Doubt(true, List.copyOf(why)));
    }
    readable();
    return new Result(true, why.isEmpty() ? null : new Doubt(false, List.copyOf(why)));
  }

  private void relations() throws SQLException {
    Map<String, String> missing = new TreeMap<>(COLUMNS);
    Sql.rows(
        connection,
        RELATIONS,
        row -> {
          String name = row.getString("relname");
          boolean view = "v".equals(row.getString("relkind"));
          boolean lookup = view && name.startsWith("lookup_");
          String wanted = missing.remove(name);
          if (wanted == null && !lookup) {
            why.add("it holds " + name);
          } else if (!row.getBoolean("same_owner")) {
            why.add(name + " belongs to somebody else");
          } else if (row.getBoolean("altered")
              || wanted != null && !wanted.equals(row.getString("columns"))
              || view != (lookup || name.equals("own_attributes"))
              || !view && !"r".equals(row.getString("relkind"))) {
            why.add(name + " is not as Fiador makes it");
          } else if (view
              && (!row.getString("options").equals("security_barrier=true")
                  || !lookup && !plain(row.getString("query")).equals(OWN_ATTRIBUTES))) {
            why.add(name + " is not the view that Fiador makes");
          }
        });
    missing.keySet().forEach(name -> why.add("it has no " + name));
  }

  private static String plain(String query) {
    String bare = String.valueOf(query).replaceAll("[\\s();]|\\ba\\.", "");
    return bare.toLowerCase(Locale.ROOT);
  }

  private void readable() throws SQLException {
    Sql.rows(
        connection,
        """
        select name from unnest(array['attributes', 'kept']) name
         where not has_schema_privilege('fiador_guard', 'usage')
            or not has_table_privilege('fiador_guard.' || name, 'select')
        """,
        row -> why.add("the login may not select from fiador_guard." + row.getString(1)));
  }
}
