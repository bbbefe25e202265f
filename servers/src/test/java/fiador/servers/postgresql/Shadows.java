package fiador.servers.postgresql;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Stands a function or operator of a hostile user beside each of the server's own that Fiador's
 * statements use, in every place where a path could find it first.
 */
final class Shadows {
  private static final Pattern CALL = Pattern.compile("\\b([a-z_][a-z0-9_]*)\\s*\\(");
  private static final Pattern SIGN = Pattern.compile("[-+*/<>=~!@#%^&|?]{1,3}");

  private static final String FUNCTIONS =
      """
      select p.proname, pg_get_function_identity_arguments(p.oid), p.proretset,
             format_type(p.prorettype, null)
        from pg_proc p
       where p.pronamespace = 'pg_catalog'::regnamespace and p.proname = any (?)
      """;

  private static final String OPERATORS =
      """
      select o.oprname, format_type(o.oprleft, null), format_type(o.oprright, null),
             format_type(o.oprresult, null)
        from pg_operator o
       where o.oprnamespace = 'pg_catalog'::regnamespace and o.oprname = any (?) and o.oprleft <> 0
      """;

  /** The closer match wins, wherever it stands in the path: these stand for untyped literals. */
  private static final List<String> TYPES = List.of("name", "text", "oid", "\"char\"", "boolean");

  private final Connection mallory;
  private final Set<String> calls = new TreeSet<>();
  private final Set<String> signs = new TreeSet<>();
  private int made;
  private int numbered;

  Shadows(Connection mallory) {
    this.mallory = mallory;
  }

  /** Collects what statements call. */
  void collect(List<String> lines) {
    for (String line : lines) {
      Matcher call = CALL.matcher(line);
      while (call.find()) {
        calls.add(call.group(1));
      }
      Matcher sign = SIGN.matcher(line);
      while (sign.find()) {
        signs.add(sign.group());
      }
    }
  }

  /** Makes them in those schemas; gives how many could be made. */
  int make(List<String> schemas) throws SQLException {
    for (String schema : schemas) {
      for (String[] f : rows(FUNCTIONS, calls)) {
        String returns = ("t".equals(f[2]) ? "SETOF " : "") + f[3];
        function(schema + ".\"" + f[0] + "\"(" + f[1] + ")", returns);
      }
      for (String name : calls) {
        for (String type : TYPES) {
          function(schema + ".\"" + name + "\"(" + type + ")", "text");
        }
      }
      for (String[] o : rows(OPERATORS, signs)) {
        operator(schema, o[0], o[1], o[2], o[3]);
      }
      for (String sign : signs) {
        for (String type : TYPES) {
          operator(schema, sign, type, type, "boolean");
        }
      }
    }
    return made;
  }

  private List<String[]> rows(String query, Set<String> names) throws SQLException {
    List<String[]> rows = new ArrayList<>();
    try (var statement = mallory.prepareStatement(query)) {
      statement.setArray(1, mallory.createArrayOf("text", names.toArray()));
      try (ResultSet row = statement.executeQuery()) {
        while (row.next()) {
          rows.add(
              new String[] {
                row.getString(1), row.getString(2), row.getString(3), row.getString(4)
              });
        }
      }
    }
    return rows;
  }

  private boolean function(String head, String returns) {
    String body =
        returns.startsWith("SETOF ")
            ? "BEGIN PERFORM evil.ring(); RETURN; END"
            : "BEGIN PERFORM evil.ring(); RETURN NULL; END";
    return run(
        "CREATE FUNCTION " + head + " RETURNS " + returns + " LANGUAGE plpgsql AS '" + body + "'");
  }

  private void operator(String schema, String sign, String left, String right, String result) {
    String name = "evil.op" + ++numbered;
    if (function(name + "(" + left + ", " + right + ")", result)) {
      run(
          "CREATE OPERATOR %s.%s (LEFTARG = %s, RIGHTARG = %s, FUNCTION = %s)"
              .formatted(schema, sign, left, right, name));
    }
  }

  /** What the server does not let her make she cannot attack with. */
  private boolean run(String sql) {
    try (Statement statement = mallory.createStatement()) {
      statement.execute(sql);
      made++;
      return true;
    } catch (SQLException refused) {
      return false;
    }
  }
}
