package fiador.servers.hsqldb;

import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.Set;

/**
 * What may be granted on. The server tells a session only of its own roles, so users are asked in
 * turn; a grant option of a role that no user holds stays unknown, and nobody can use it.
 */
final class GrantOptions {
  private static final String TABLES =
      """
      select grantee, table_schema, table_name, privilege_type
        from information_schema.table_privileges where is_grantable = 'YES'
      """;

  private static final String COLUMNS =
      """
      select grantee, table_schema, table_name, column_name, privilege_type
        from information_schema.column_privileges where is_grantable = 'YES'
      """;

  private static final String USAGES =
      """
      select grantee, object_schema, object_name, privilege_type
        from information_schema.usage_privileges
       where is_grantable = 'YES' and object_type = 'SEQUENCE'
      """;

  private static final String ROUTINES =
      """
      select grantee, specific_schema, specific_name, privilege_type
        from information_schema.routine_privileges where is_grantable = 'YES'
      """;

  private record OnColumn(String grantee, String schema, String name, String column, String what) {}

  private record OnWhole(String grantee, String schema, String name, String what) {}

  private final Set<OnWhole> whole = new HashSet<>();
  private final Set<OnColumn> columns = new HashSet<>();

  /** Asks in the name of the user whose session this is. */
  void ask(Connection session) throws SQLException {
    for (String query : new String[] {TABLES, USAGES, ROUTINES}) {
      Sql.rows(
          session,
          query,
          row ->
              whole.add(
                  new OnWhole(
                      row.getString(1), row.getString(2), row.getString(3), row.getString(4))));
    }
    Sql.rows(
        session,
        COLUMNS,
        row ->
            columns.add(
                new OnColumn(
                    row.getString(1),
                    row.getString(2),
                    row.getString(3),
                    row.getString(4),
                    row.getString(5))));
  }

  boolean onWhole(String grantee, String schema, String name, String privilege) {
    return whole.contains(new OnWhole(grantee, schema, name, privilege));
  }

  boolean onColumn(String grantee, String schema, String name, String column, String privilege) {
    return columns.contains(new OnColumn(grantee, schema, name, column, privilege));
  }
}
