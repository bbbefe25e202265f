package fiador.servers.postgresql;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.DottedName;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.servers.postgresql.ServerAnswers.Right;
import java.sql.Connection;
import java.time.Clock;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The server's own catalogs, compared with what the server says of them. */
final class SystemComparison {
  private SystemComparison() {}

  /**
   * The server's own catalogs, for a few users: guarded against writing, mostly open to reading.
   */
  static void compare(
      Connection connection,
      Access access,
      ServerAnswers server,
      String database,
      Set<String> mismatches)
      throws Exception {
    Holdings holdings = new Holdings(access, Clock.systemUTC(), true);
    Tree tree = access.tree();
    Map<Right, PostgresqlConformanceTest.Answer> rows = new HashMap<>();
    Set<String> asked = new HashSet<>();
    for (int user = 1; user < access.principals().size() && asked.size() < 6; user += 3) {
      String name = access.principals().name(user);
      // who cannot connect has blocked rows also for what they would only have after a switch
      if (access.principals().isUser(user)
          && server.held.contains(new Right(name, "CONNECT", DottedName.quoted(database), ""))) {
        asked.add(name);
        for (Holding row : holdings.of(user)) {
          if (row.columns() == null && row.state() != State.ON_REQUEST) {
            PostgresqlConformanceTest.expand(tree, name, row, rows);
          }
        }
      }
    }
    for (Privilege privilege :
        List.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.TRUNCATE)) {
      fiador.servers.jdbc.Sql.rows(
          connection,
          "select rolname, nspname, relname, has_table_privilege(r.oid, c.oid, ?) from pg_roles r,"
              + " pg_class c join pg_namespace n on n.oid = relnamespace where relkind in ('r', 'v')"
              + " and nspname in ('pg_catalog', 'information_schema')",
          row -> {
            String path =
                String.join(
                    ".",
                    DottedName.quoted(database),
                    DottedName.quoted(row.getString(2)),
                    DottedName.quoted(row.getString(3)));
            Right right = new Right(row.getString(1), privilege.name(), path, "");
            PostgresqlConformanceTest.Answer answer = rows.get(right);
            boolean onlyAfterSwitch = answer == null;
            if (asked.contains(right.principal()) && row.getBoolean(4) == onlyAfterSwitch) {
              boolean switched =
                  holdings
                      .at(access.principals().named(right.principal()), nodeAt(tree, path))
                      .stream()
                      .anyMatch(h -> h.privilege() == privilege && h.state() == State.ON_REQUEST);
              if (!(row.getBoolean(4) && switched)) {
                mismatches.add("system: " + right + ": we say " + answer);
              }
            }
          },
          privilege.name());
    }
  }

  private static int nodeAt(Tree tree, String path) {
    for (int node = 0; node < tree.size(); node++) {
      if (tree.path(node).equals(path)) {
        return node;
      }
    }
    throw new AssertionError("no node " + path);
  }
}
