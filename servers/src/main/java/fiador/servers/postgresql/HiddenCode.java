package fiador.servers.postgresql;

import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/**
 * What of others' making would run when a relation is read or when a statement on it is planned.
 * Views and row rules run when they are read; but the planner also works out what an index, a check
 * or a statistic is about, and there runs whatever is declared to be immutable.
 */
final class HiddenCode {
  /**
   * From a relation to all it is made of: rules, row rules, indexes, checks, statistics, heirs, the
   * types with their own checks, and the functions these call. The catalog's dependencies leave out
   * the server's own functions, so those are taken from the trees. A function in C or the server's
   * own that belongs to a superuser is trusted where it changes nothing; but some run a query or a
   * type's check that they are given as a text, or change who is asking.
   */
  private static final String REACH =
      """
      with recursive reach (class, object) as (
        select 'pg_class'::regclass::oid, ?::oid
        union
        select x.class, x.object
          from reach r
         cross join lateral (
           select d.refclassid, d.refobjid
             from pg_depend d
            where d.classid = r.class and d.objid = r.object and d.refobjid >= 16384
              and d.refclassid <> 'pg_namespace'::regclass and r.class <> 'pg_proc'::regclass
           union all
           select 'pg_rewrite'::regclass, w.oid from pg_rewrite w
            where r.class = 'pg_class'::regclass and w.ev_class = r.object
              and (w.ev_type = '1' or ?)
           union all
           select 'pg_policy'::regclass, p.oid from pg_policy p
            where r.class = 'pg_class'::regclass and p.polrelid = r.object
           union all
           select 'pg_class'::regclass, i.indexrelid from pg_index i
            where r.class = 'pg_class'::regclass and i.indrelid = r.object
           union all
           select 'pg_constraint'::regclass, k.oid from pg_constraint k
            where k.contype = 'c'
              and (r.class = 'pg_class'::regclass and k.conrelid = r.object
                   or r.class = 'pg_type'::regclass and k.contypid = r.object)
           union all
           select 'pg_statistic_ext'::regclass, s.oid from pg_statistic_ext s
            where r.class = 'pg_class'::regclass and s.stxrelid = r.object
           union all
           select 'pg_class'::regclass, h.inhrelid from pg_inherits h
            where r.class = 'pg_class'::regclass and h.inhparent = r.object
           union all
           select 'pg_proc'::regclass, f.id[1]::oid
             from (select w.ev_action::text as tree from pg_rewrite w
                    where r.class = 'pg_rewrite'::regclass and w.oid = r.object
                   union all
                   select concat(p.polqual, p.polwithcheck) from pg_policy p
                    where r.class = 'pg_policy'::regclass and p.oid = r.object
                   union all
                   select concat(i.indexprs, i.indpred) from pg_index i
                    where r.class = 'pg_class'::regclass and i.indexrelid = r.object
                   union all
                   select k.conbin::text from pg_constraint k
                    where r.class = 'pg_constraint'::regclass and k.oid = r.object
                   union all
                   select t.partexprs::text from pg_partitioned_table t
                    where r.class = 'pg_class'::regclass and t.partrelid = r.object) n
            cross join lateral regexp_matches(
                  n.tree, ':(?:funcid|opfuncid|aggfnoid|winfnoid) ([1-9][0-9]*)', 'g') f (id)
           union all
           select 'pg_attrdef'::regclass, a.oid from pg_attrdef a
            where ? and r.class = 'pg_class'::regclass and a.adrelid = r.object
         ) x (class, object))
      select pg_describe_object(r.class, r.object, 0) as what
        from reach r
        left join pg_proc p on r.class = 'pg_proc'::regclass and p.oid = r.object
        left join pg_roles o on o.oid = p.proowner
        left join pg_language l on l.oid = p.prolang
        left join pg_class c on r.class = 'pg_class'::regclass and c.oid = r.object
       where p.oid is not null
             and (not (o.rolsuper and l.lanname in ('internal', 'c'))
                  or p.provolatile = 'v'
                     and p.proname not in ('random', 'clock_timestamp', 'timeofday', 'gen_random_uuid')
                  or p.proname ~ '_to_xml|^pg_input_'
                  or p.proargtypes::oid[] && array['cstring'::regtype::oid, 'internal'::regtype::oid])
          or c.relkind = 'f'
       order by 1
      """;

  private static final String RELATION =
      """
      select c.oid, c.relkind from pg_class c join pg_namespace n on n.oid = c.relnamespace
       where n.nspname = ? and c.relname = ?
      """;

  private HiddenCode() {}

  /**
   * Holds a relation as it is till the transaction ends, and looks. The lock keeps indexes, rules
   * and checks from being added; rows may be read and written meanwhile.
   *
   * @param quoted the relation's name in SQL
   * @param writing whether the statement would write, which brings in defaults
   * @return why it cannot be touched without running something; empty when it can
   */
  static List<String> of(
      Connection connection, String schema, String name, String quoted, boolean writing)
      throws SQLException {
    List<String> why = new ArrayList<>();
    String before = relation(connection, schema, name, why);
    if (!why.isEmpty()) {
      return why;
    }
    try (Statement lock = connection.createStatement()) {
      lock.execute("LOCK TABLE " + quoted + " IN SHARE UPDATE EXCLUSIVE MODE");
    }
    if (!before.equals(relation(connection, schema, name, why))) {
      why.add("it is being replaced by somebody at this moment");
      return why;
    }
    Sql.rows(
        connection,
        REACH,
        row -> why.add("it would run " + row.getString(1) + ", which others made"),
        Long.valueOf(before),
        writing,
        writing);
    return why;
  }

  private static String relation(
      Connection connection, String schema, String name, List<String> why) throws SQLException {
    String[] found = new String[1];
    Sql.rows(
        connection,
        RELATION,
        row -> {
          found[0] = row.getString(1);
          switch (row.getString(2)) {
            case "f" -> why.add("it is a foreign table, which asks another server");
            case "m" -> why.add("it is a materialized view, which cannot be held as it is");
            default -> {}
          }
        },
        schema,
        name);
    if (found[0] == null) {
      why.add("it is not there any more");
    }
    return found[0];
  }
}
