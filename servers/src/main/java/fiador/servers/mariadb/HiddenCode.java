package fiador.servers.mariadb;

import fiador.servers.Sql;
import fiador.servers.lineage.NotUnderstood;
import fiador.servers.lineage.QuotedNames;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;

/** What of others' making would run when a table or view is read: stored functions of views. */
final class HiddenCode {
  private static final String RELATION =
      """
      select t.TABLE_TYPE, coalesce(t.ENGINE, '') as engine, v.VIEW_DEFINITION
        from information_schema.TABLES t
        left join information_schema.VIEWS v
          on v.TABLE_SCHEMA = t.TABLE_SCHEMA and v.TABLE_NAME = t.TABLE_NAME
       where binary t.TABLE_SCHEMA = ? and binary t.TABLE_NAME = ?
      """;

  /** Others read files or ask other servers. */
  private static final Set<String> ENGINES = Set.of("InnoDB", "Aria", "MyISAM", "MEMORY");

  private HiddenCode() {}

  /** A view's text, ready for the parser. */
  static QuotedNames quoted(String text) {
    return new QuotedNames(text, '`', true, UnaryOperator.identity());
  }

  /** The first reason not to read it; empty where there is none. */
  static List<String> of(Connection connection, String schema, String name) throws SQLException {
    Set<ViewText.Name> seen = new HashSet<>();
    Deque<ViewText.Name> open = new ArrayDeque<>(List.of(new ViewText.Name(schema, name)));
    while (!open.isEmpty()) {
      ViewText.Name next = open.pop();
      if (!seen.add(next)) {
        continue;
      }
      String[] found = new String[3];
      Sql.rows(
          connection,
          RELATION,
          row -> {
            for (int i = 0; i < found.length; i++) {
              found[i] = row.getString(i + 1);
            }
          },
          next.schema(),
          next.name());
      String path = next.schema() + "." + next.name();
      if (found[0] == null) {
        return List.of(path + " is not there any more");
      } else if (found[0].equals("BASE TABLE") && !ENGINES.contains(found[1])) {
        return List.of(path + " is kept by the engine " + found[1] + ", which may ask elsewhere");
      } else if (found[0].equals("VIEW")) {
        String reason = under(path, found[2], open);
        if (reason != null) {
          return List.of(reason);
        }
      }
    }
    return List.of();
  }

  private static String under(String path, String query, Deque<ViewText.Name> open) {
    try {
      ViewText text = ViewText.of(quoted(query == null ? "" : query));
      if (!text.functions().isEmpty()) {
        ViewText.Name called = text.functions().get(0);
        return "it would run the function "
            + called.schema()
            + "."
            + called.name()
            + ", which others made";
      }
      open.addAll(text.tables().keySet());
      return null;
    } catch (NotUnderstood beyond) {
      return "what the view " + path + " runs could not be worked out";
    }
  }
}
