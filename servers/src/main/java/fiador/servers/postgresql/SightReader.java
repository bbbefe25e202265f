package fiador.servers.postgresql;

import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.AccessBuilder;
import fiador.grants.Sights;
import fiador.servers.jdbc.Sql;
import fiador.servers.kind.GuardReader;
import fiador.sqltext.rules.RowRuleText;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Reads row level security, whoever wrote it, and what the guarded schema keeps. */
final class SightReader {
  private static final String FILTERS =
      """
      select c.oid, c.relrowsecurity, c.relforcerowsecurity, p.polname, p.polpermissive, p.polcmd,
             p.polroles::bigint[] as roles, pg_get_expr(p.polqual, p.polrelid) as using
        from pg_class c
        left join pg_policy p on p.polrelid = c.oid
       where c.relrowsecurity or p.oid is not null
       order by c.oid, p.polname
      """;

  private static final String KEPT =
      "select k.schema_name, k.object_name, k.table_schema, k.table_name, k.policies,"
          + " k.stored = case when c.relkind = 'v' then "
          + PostgresqlSight.VIEW_TEXT
          + " else "
          + PostgresqlSight.POLICY_TEXTS
          + " end as as_made, c.relname as text"
          + """

        from fiador_guard.kept k
        left join (pg_class c join pg_namespace n on n.oid = c.relnamespace)
               on n.nspname = k.schema_name and c.relname = k.object_name
       order by 1, 2
      """;

  private final Database database;
  private final AccessBuilder builder;
  private final Map<Integer, Sights.Filter> filters = new LinkedHashMap<>();

  SightReader(Database database) {
    this.database = database;
    this.builder = database.catalog().builder();
  }

  /** Reads it; notes are told of a guarded schema that is not believed. */
  void read(Connection connection, String keeper, Consumer<String> notes) throws SQLException {
    Sql.rows(connection, FILTERS, this::filter);
    filters.forEach(builder.sights()::filter);
    GuardCheck.Result guard = GuardCheck.of(connection, keeper);
    if (guard.doubt() != null) {
      builder.sights().doubt(database.node(), guard.doubt());
      notes.accept(
          "nothing in fiador_guard of database "
              + connection.getCatalog()
              + (guard.doubt().foreign() ? " is believed: " : " was read: ")
              + String.join("; ", guard.doubt().why()));
    } else if (guard.believed()) {
      guarded(connection);
    }
  }

  private void guarded(Connection connection) throws SQLException {
    Sql.rows(
        connection,
        "select oid from pg_namespace where nspname = 'fiador_guard'",
        row -> builder.sights().guard(database.node(), database.schemas().get(row.getLong("oid"))));
    Map<List<String>, Integer> names = new LinkedHashMap<>();
    Sql.rows(
        connection,
        """
        select n.nspname, c.relname, c.oid from pg_class c
          join pg_namespace n on n.oid = c.relnamespace
         where c.relkind in ('r', 'p', 'f', 'v', 'm')
        """,
        row ->
            names.put(
                List.of(row.getString(1), row.getString(2)),
                database.relations().get(row.getLong(3))));
    new GuardReader(
            builder,
            database.node(),
            (schema, name) -> names.getOrDefault(List.of(schema, name), None.NODE))
        .read(connection, KEPT);
  }

  private void filter(ResultSet row) throws SQLException {
    int table = database.relations().get(row.getLong("oid"));
    if (table < 0) {
      return;
    }
    Sights.Filter filter = filters.get(table);
    List<Sights.Rule> rules = new ArrayList<>(filter == null ? List.of() : filter.rules());
    if (row.getString("polname") != null) {
      List<Integer> roles = new ArrayList<>();
      for (Long role : (Long[]) row.getArray("roles").getArray()) {
        roles.add(database.principal(role));
      }
      rules.add(
          new Sights.Rule(
              row.getString("polname"),
              row.getBoolean("polpermissive"),
              commands(row.getString("polcmd")),
              List.copyOf(roles),
              row.getString("using"),
              RowRuleText.predicate(row.getString("using"))));
    }
    filters.put(
        table,
        new Sights.Filter(
            row.getBoolean("relrowsecurity"), row.getBoolean("relforcerowsecurity"), rules));
  }

  private static long commands(String letter) {
    return switch (letter) {
      case "r" -> Privilege.SELECT.bit();
      case "a" -> Privilege.INSERT.bit();
      case "w" -> Privilege.UPDATE.bit();
      case "d" -> Privilege.DELETE.bit();
      default ->
          Privilege.SELECT.bit()
              | Privilege.INSERT.bit()
              | Privilege.UPDATE.bit()
              | Privilege.DELETE.bit();
    };
  }
}
