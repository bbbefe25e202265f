package fiador.servers.postgresql;

import fiador.estate.DottedName;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a real server itself says and does, for every user and role: its {@code has_*_privilege}
 * functions, and statements really run.
 */
final class ServerAnswers {
  /** A right in question; column is empty for the whole object. */
  record Right(String principal, String privilege, String object, String column) {}

  final Set<String> users = new HashSet<>();
  final Set<String> superusers = new HashSet<>();

  /** By database and user: one role is everybody's only in their own database. */
  final Map<String, Map<String, List<String>>> canSwitchTo = new HashMap<>();

  final Set<Right> held = new HashSet<>();
  final Set<Right> grantable = new HashSet<>();
  final Map<String, String> schemaOf = new HashMap<>();
  final Map<String, String> databaseOf = new HashMap<>();
  final Map<String, List<String>> columnsOf = new HashMap<>();
  final Map<String, List<String>> privilegesOf = new HashMap<>();
  final Set<String> views = new HashSet<>();
  final Set<String> tables = new HashSet<>();
  final Set<String> closed = new HashSet<>();
  private final int major;

  ServerAnswers(int major) {
    this.major = major;
  }

  private static final String PRINCIPALS = "(select oid, rolname from pg_roles)";

  void readServer(Connection home) throws SQLException {
    Sql.rows(
        home,
        "select rolname, rolcanlogin, rolsuper from pg_roles",
        row -> {
          if (row.getBoolean(2)) {
            users.add(row.getString(1));
          }
          if (row.getBoolean(3)) {
            superusers.add(row.getString(1));
          }
        });
    Sql.rows(
        home,
        "select datname from pg_database where not datallowconn",
        row -> closed.add(DottedName.quoted(row.getString(1))));
  }

  void readDatabase(Connection connection, String database) throws SQLException {
    String path = DottedName.quoted(database);
    readSwitches(connection, path);
    ask(
        connection,
        "has_database_privilege",
        List.of("CONNECT", "CREATE", "TEMPORARY"),
        "select oid, null::text as schema, null::text as name, 'd' as kind from pg_database"
            + " where datname = current_database()",
        path);
    ask(
        connection,
        "has_schema_privilege",
        List.of("CREATE", "USAGE"),
        "select oid, nspname as schema, null::text as name, 'n' as kind from pg_namespace"
            + " where nspname !~ '^pg_' and nspname <> 'information_schema'",
        path);
    String relations =
        "select c.oid, nspname as schema, relname as name, relkind as kind from pg_class c"
            + " join pg_namespace n on n.oid = relnamespace"
            + " where nspname !~ '^pg_' and nspname <> 'information_schema'";
    List<String> table =
        new ArrayList<>(
            List.of("SELECT", "INSERT", "UPDATE", "DELETE", "TRUNCATE", "REFERENCES", "TRIGGER"));
    if (major >= 17) {
      table.add("MAINTAIN");
    }
    ask(
        connection,
        "has_table_privilege",
        table,
        relations + " and relkind in ('r', 'p', 'v', 'm')",
        path);
    ask(
        connection,
        "has_sequence_privilege",
        List.of("USAGE", "SELECT", "UPDATE"),
        relations + " and relkind = 'S'",
        path);
    ask(
        connection,
        "has_function_privilege",
        List.of("EXECUTE"),
        "select p.oid, nspname as schema, proname || '(' || oidvectortypes(proargtypes) || ')' as"
            + " name, 'f' as kind from pg_proc p join pg_namespace n on n.oid = pronamespace"
            + " where nspname !~ '^pg_' and nspname <> 'information_schema'",
        path);
    askColumns(connection, path);
  }

  private void readSwitches(Connection connection, String database) throws SQLException {
    String how = major >= 16 ? "SET" : "MEMBER";
    Sql.rows(
        connection,
        "select u.rolname, r.rolname from pg_roles u, pg_roles r where u.oid <> r.oid"
            + " and u.rolcanlogin and not u.rolsuper"
            + " and pg_has_role(u.oid, r.oid, '"
            + how
            + "')",
        row ->
            canSwitchTo
                .computeIfAbsent(database, fresh -> new HashMap<>())
                .computeIfAbsent(row.getString(1), fresh -> new ArrayList<>())
                .add(row.getString(2)));
  }

  List<String> canSwitchTo(String database, String user) {
    return canSwitchTo.getOrDefault(database, Map.of()).getOrDefault(user, List.of());
  }

  private void ask(
      Connection connection,
      String function,
      List<String> privileges,
      String objects,
      String database)
      throws SQLException {
    StringBuilder columns = new StringBuilder();
    for (String privilege : privileges) {
      columns.append(
          ", %s(r.oid, o.oid, '%s'), %s(r.oid, o.oid, '%s WITH GRANT OPTION')"
              .formatted(function, privilege, function, privilege));
    }
    Sql.rows(
        connection,
        "select r.rolname, o.schema, o.name, o.kind"
            + columns
            + " from "
            + PRINCIPALS
            + " r, ("
            + objects
            + ") o",
        row -> {
          String object = path(database, row.getString(2), row.getString(3), row.getString(4));
          databaseOf.put(object, database);
          if (row.getString(3) != null) {
            schemaOf.put(object, database + "." + DottedName.quoted(row.getString(2)));
          }
          if (row.getString(4).equals("v")) {
            views.add(object);
          } else if (row.getString(4).equals("r")) {
            tables.add(object);
          }
          privilegesOf.put(object, privileges);
          for (int i = 0; i < privileges.size(); i++) {
            Right right = new Right(row.getString(1), privileges.get(i), object, "");
            if (row.getBoolean(5 + 2 * i)) {
              held.add(right);
            }
            if (row.getBoolean(6 + 2 * i)) {
              grantable.add(right);
            }
          }
        });
  }

  private static String path(String database, String schema, String name, String kind) {
    if (schema == null) {
      return database;
    }
    String parent = database + "." + DottedName.quoted(schema);
    return name == null
        ? parent
        : parent
            + "."
            + (kind.equals("f") ? DottedName.quotedRoutine(name) : DottedName.quoted(name));
  }

  private void askColumns(Connection connection, String database) throws SQLException {
    List<String> privileges = List.of("SELECT", "INSERT", "UPDATE", "REFERENCES");
    StringBuilder asked = new StringBuilder();
    for (String privilege : privileges) {
      asked.append(
          (", has_column_privilege(r.oid, a.attrelid, a.attnum, '%s'), "
                  + "has_column_privilege(r.oid, a.attrelid, a.attnum, '%s WITH GRANT OPTION')")
              .formatted(privilege, privilege));
    }
    Sql.rows(
        connection,
        "select r.rolname, nspname, relname, attname"
            + asked
            + " from "
            + PRINCIPALS
            + " r, pg_attribute a join pg_class c on c.oid = attrelid join pg_namespace n on n.oid ="
            + " relnamespace where nspname !~ '^pg_' and nspname <> 'information_schema' and relkind"
            + " in ('r', 'p', 'v', 'm') and not attisdropped and (attnum > 0 or attacl is not null)",
        row -> {
          String object = path(database, row.getString(2), row.getString(3), "r");
          String column = row.getString(4);
          List<String> columns = columnsOf.computeIfAbsent(object, o -> new ArrayList<>());
          if (!columns.contains(column)) {
            columns.add(column);
          }
          for (int i = 0; i < privileges.size(); i++) {
            Right right = new Right(row.getString(1), privileges.get(i), object, column);
            if (row.getBoolean(5 + 2 * i)) {
              held.add(right);
            }
            if (row.getBoolean(6 + 2 * i)) {
              grantable.add(right);
            }
          }
        });
  }

  /**
   * Runs each statement as the principal, in a transaction that is rolled back.
   *
   * @return for each statement whether it was not refused for want of a right
   */
  static List<Boolean> run(Connection connection, String principal, List<String> statements)
      throws SQLException {
    StringBuilder list = new StringBuilder();
    for (String text : statements) {
      list.append(list.isEmpty() ? "" : ",").append("$q$").append(text).append("$q$");
    }
    connection.setAutoCommit(false);
    try (Statement statement = connection.createStatement()) {
      statement.execute("SET SESSION AUTHORIZATION " + RandomEstate.q(principal));
      statement.execute(
          """
          DO $do$ DECLARE s text; found text := '';
          BEGIN
            FOREACH s IN ARRAY ARRAY[%s]::text[] LOOP
              BEGIN
                EXECUTE s;
                found := found || 'y';
              EXCEPTION WHEN insufficient_privilege THEN found := found || 'n';
                        WHEN OTHERS THEN found := found || 'y';
              END;
            END LOOP;
            PERFORM set_config('fiador.found', found, false);
          END $do$
          """
              .formatted(list));
      List<Boolean> answers = new ArrayList<>();
      Sql.rows(
          connection,
          "select current_setting('fiador.found')",
          row -> row.getString(1).chars().forEach(c -> answers.add(c == 'y')));
      return answers;
    } finally {
      connection.rollback();
      try (Statement statement = connection.createStatement()) {
        statement.execute("RESET SESSION AUTHORIZATION");
      }
      connection.commit();
      connection.setAutoCommit(true);
    }
  }
}
