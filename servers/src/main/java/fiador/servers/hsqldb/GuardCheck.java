package fiador.servers.hsqldb;

import fiador.grants.Sights.Doubt;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Whether a guarded schema is what Fiador itself makes. Whoever may create schemas may create one
 * in the administrators' name, with tables, views and grants on them in one statement; so that it
 * belongs to them is not enough.
 */
final class GuardCheck {
  private static final String OWNER =
      "select schema_owner from information_schema.schemata where schema_name = 'FIADOR_GUARD'";

  private static final String COLUMNS =
      """
      select t.table_name, t.table_type, c.column_name, c.data_type
        from information_schema.tables t
        left join information_schema.columns c
          on c.table_schema = t.table_schema and c.table_name = t.table_name
       where t.table_schema = 'FIADOR_GUARD'
       order by t.table_name, c.ordinal_position
      """;

  private static final String OTHERS =
      """
      select 'the trigger ' || trigger_name from information_schema.triggers
       where event_object_schema = 'FIADOR_GUARD' or trigger_schema = 'FIADOR_GUARD'
      union all
      select 'the routine ' || routine_name from information_schema.routines
       where routine_schema = 'FIADOR_GUARD'
      union all
      select 'a view that runs ' || routine_name from information_schema.view_routine_usage v
        join information_schema.routines r
          on r.specific_schema = v.specific_schema and r.specific_name = v.specific_name
       where v.view_schema = 'FIADOR_GUARD' and r.routine_schema is not null
      """;

  private static final Map<String, String> KNOWN =
      Map.of(
          "ATTRIBUTES", "BASE TABLE USER_NAME ATTRIBUTE VALUE",
          "OWN_ATTRIBUTES", "VIEW ATTRIBUTE VALUE",
          "KEPT", "BASE TABLE SCHEMA_NAME OBJECT_NAME TABLE_SCHEMA TABLE_NAME POLICIES STORED");

  private static final String VIEW =
      """
      select view_definition from information_schema.views
       where table_schema = 'FIADOR_GUARD' and table_name = 'OWN_ATTRIBUTES'
      """;

  /** As the server writes it. */
  private static final String OWN_ATTRIBUTES =
      "SELECT A.ATTRIBUTE,A.VALUE FROM FIADOR_GUARD.ATTRIBUTES A"
          + " WHERE A.USER_NAME||'.'=SESSION_USER||'.'";

  private GuardCheck() {}

  /** Why nothing there is believed; empty when it is, or when there is no such schema. */
  static Optional<Doubt> of(Connection connection) throws SQLException {
    List<String> why = new ArrayList<>();
    boolean[] there = new boolean[1];
    Sql.rows(
        connection,
        OWNER,
        row -> {
          there[0] = true;
          if (!"DBA".equals(row.getString(1))) {
            why.add("it belongs to " + row.getString(1));
          }
        });
    if (!there[0]) {
      return Optional.empty();
    }
    Map<String, String> found = new HashMap<>();
    Sql.rows(
        connection,
        COLUMNS,
        row -> {
          String kind = row.getString(2);
          String column = row.getString(3);
          found.merge(row.getString(1), kind + " " + column, (all, one) -> all + " " + column);
        });
    found.forEach(
        (name, is) -> {
          String wanted = KNOWN.get(name);
          boolean lookup = name.startsWith("LOOKUP_") && is.equals("VIEW VALUE");
          if (wanted == null && !lookup) {
            why.add("it holds " + name);
          } else if (wanted != null && !wanted.equals(is)) {
            why.add(name + " is not as Fiador makes it");
          }
        });
    Sql.rows(
        connection,
        VIEW,
        row -> {
          if (!OWN_ATTRIBUTES.equals(row.getString(1))) {
            why.add("OWN_ATTRIBUTES is not the view that Fiador makes");
          }
        });
    grants(connection, why);
    Sql.rows(connection, OTHERS, row -> why.add("it holds " + row.getString(1)));
    return why.isEmpty() ? Optional.empty() : Optional.of(new Doubt(true, List.copyOf(why)));
  }

  /** The catalog tells a session of its own grants only; the script has all. */
  private static void grants(Connection connection, List<String> why) throws SQLException {
    Sql.rows(
        connection,
        "script",
        row -> {
          GrantScript.Statement grant = GrantScript.read(row.getString(1));
          if (grant != null && grant.object().get(0).equals("FIADOR_GUARD")) {
            for (GrantScript.Action action : grant.actions()) {
              if (!action.name().equals("select")) {
                String on = grant.object().get(grant.object().size() - 1);
                why.add(grant.grantee() + " may " + action.name() + " on " + on);
              }
            }
          }
        });
  }
}
