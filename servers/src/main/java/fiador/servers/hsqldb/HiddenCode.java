package fiador.servers.hsqldb;

import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What of others' making would run when a table or view is read: routines of views. */
final class HiddenCode {
  private static final String ROUTINES =
      """
      select r.routine_schema, r.routine_name
        from information_schema.view_routine_usage v
        join information_schema.routines r
          on r.specific_schema = v.specific_schema and r.specific_name = v.specific_name
       where v.view_schema = ? and v.view_name = ?
       order by 1, 2
      """;

  private static final String UNDER =
      """
      select table_schema, table_name from information_schema.view_table_usage
       where view_schema = ? and view_name = ?
      """;

  private HiddenCode() {}

  static List<String> of(Connection connection, String schema, String name) throws SQLException {
    List<String> why = new ArrayList<>();
    Set<List<String>> seen = new HashSet<>();
    Deque<List<String>> open = new ArrayDeque<>(List.of(List.of(schema, name)));
    while (!open.isEmpty() && why.isEmpty()) {
      List<String> next = open.pop();
      if (!seen.add(next)) {
        continue;
      }
      Sql.rows(
          connection,
          ROUTINES,
          row ->
              why.add(
                  "it would run the routine "
                      + row.getString(1)
                      + "."
                      + row.getString(2)
                      + ", which others made"),
          next.get(0),
          next.get(1));
      Sql.rows(
          connection,
          UNDER,
          row -> open.add(List.of(row.getString(1), row.getString(2))),
          next.get(0),
          next.get(1));
    }
    return why;
  }
}
