package fiador.servers.mariadb;

import fiador.grants.rules.MariadbRules;
import fiador.servers.jdbc.Sql;
import fiador.sqltext.SqlReader;
import fiador.sqltext.lineage.QuotedNames;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What of others' making would run when a table or view is read: stored functions of views. */
final class HiddenCode {
  /** Names given as they are let the server open this one and no other. */
  private static final String RELATION =
      """
      select TABLE_TYPE, coalesce(ENGINE, '') as engine from information_schema.TABLES
       where TABLE_SCHEMA = ? and TABLE_NAME = ? and binary TABLE_SCHEMA = ? and binary TABLE_NAME = ?
      """;

  private static final String VIEW =
      """
      select VIEW_DEFINITION from information_schema.VIEWS
       where TABLE_SCHEMA = ? and TABLE_NAME = ? and binary TABLE_SCHEMA = ? and binary TABLE_NAME = ?
      """;

  /** Others read files or ask other servers. */
  private static final Set<String> ENGINES = Set.of("InnoDB", "Aria", "MyISAM", "MEMORY");

  /** How SQL is written is the same in all versions. */
  private static final SqlReader SQL = new SqlReader(MariadbRules.of(10, 11));

  private HiddenCode() {}

  /** A view's text, ready for the parser. */
  static QuotedNames quoted(String text) {
    return new QuotedNames(text, SQL);
  }

  private record Name(String schema, String name) {}

  /** The first reason not to read it; empty where there is none. */
  static List<String> of(Connection connection, String schema, String name) throws SQLException {
    Name asked = new Name(schema, name);
    Set<Name> seen = new HashSet<>();
    Deque<Name> open = new ArrayDeque<>(List.of(asked));
    while (!open.isEmpty()) {
      Name next = open.pop();
      if (!seen.add(next)) {
        continue;
      }
      String[] found = new String[3];
      rows(
          connection,
          RELATION,
          next,
          row -> {
            found[0] = row.getString(1);
            found[1] = row.getString(2);
          });
      String path = next.schema() + "." + next.name();
      if (found[0] == null && next.equals(asked)) {
        return List.of("it is not there any more");
      } else if ("BASE TABLE".equals(found[0]) && !ENGINES.contains(found[1])) {
        return List.of(path + " is kept by the engine " + found[1] + ", which may ask elsewhere");
      } else if ("VIEW".equals(found[0])) {
        rows(connection, VIEW, next, row -> found[2] = row.getString(1));
        String reason = under(path, found[2], open);
        if (reason != null) {
          return List.of(reason);
        }
      }
    }
    return List.of();
  }

  private static void rows(Connection connection, String query, Name name, Sql.Row each)
      throws SQLException {
    Sql.rows(connection, query, each, name.schema(), name.name(), name.schema(), name.name());
  }

  /** The server keeps each name quoted, and each table and routine with its schema. */
  private static String under(String path, String query, Deque<Name> open) {
    if (query == null || query.isEmpty()) {
      return "what the view " + path + " runs is not shown to this login";
    }
    for (QuotedNames.Pair pair : quoted(query).pairs()) {
      if (pair.called()) {
        String called = pair.first() + "." + pair.second();
        return "it would run the function " + called + ", which others made";
      }
      open.add(new Name(pair.first(), pair.second()));
    }
    return null;
  }
}
