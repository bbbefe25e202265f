package fiador.servers.hsqldb;

import fiador.changes.steps.MoveTable;
import fiador.changes.steps.SafeView;
import fiador.policies.SafeColumn;
import fiador.servers.policies.MaskSql;
import fiador.servers.policies.SightStatements;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.StringJoiner;

/** Policies on HSQLDB: rows and masks by views, which read with their owner's rights. */
final class HsqldbSight extends SightStatements {
  @Override
  protected MaskSql writer(String qualifier) {
    return new HsqldbSightSql(qualifier);
  }

  @Override
  protected String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  @Override
  protected List<String> makeGuard() {
    return List.of(
        "CREATE SCHEMA IF NOT EXISTS FIADOR_GUARD AUTHORIZATION DBA",
        "CREATE TABLE IF NOT EXISTS FIADOR_GUARD.ATTRIBUTES (USER_NAME VARCHAR(128),"
            // no key: to the server two values that differ in blanks at the end would be one
            + " ATTRIBUTE VARCHAR(128), VALUE VARCHAR(1000))",
        "CREATE VIEW IF NOT EXISTS FIADOR_GUARD.OWN_ATTRIBUTES AS"
            + " SELECT A.ATTRIBUTE, A.VALUE FROM FIADOR_GUARD.ATTRIBUTES A"
            + " WHERE A.USER_NAME || '.' = SESSION_USER || '.'",
        "CREATE TABLE IF NOT EXISTS FIADOR_GUARD.KEPT (SCHEMA_NAME VARCHAR(128),"
            + " OBJECT_NAME VARCHAR(128), TABLE_SCHEMA VARCHAR(128), TABLE_NAME VARCHAR(128),"
            + " POLICIES LONGVARCHAR, STORED LONGVARCHAR, PRIMARY KEY (SCHEMA_NAME, OBJECT_NAME))");
  }

  @Override
  protected String dropGuard() {
    return "DROP SCHEMA FIADOR_GUARD CASCADE";
  }

  @Override
  public String makeView(String name, boolean replace, boolean guarded) {
    return (replace ? "ALTER VIEW " : "CREATE VIEW IF NOT EXISTS ") + name;
  }

  /** With the same columns, and no rows; its grants stay. */
  @Override
  protected List<String> detach(SafeView view) {
    StringJoiner columns = new StringJoiner(", ");
    for (SafeColumn column : view.columns()) {
      columns.add("CAST(NULL AS VARCHAR(1)) AS " + quoted(column.name()));
    }
    return List.of(
        "ALTER VIEW "
            + path(view.view())
            + " AS SELECT "
            + columns
            + " FROM (VALUES (0)) WHERE FALSE");
  }

  @Override
  protected List<String> make(SafeView view, boolean replace) {
    if (!view.underName()) {
      return super.make(view, replace);
    }
    List<String> statements = new ArrayList<>();
    WriteThroughSql writing =
        new WriteThroughSql(view, path(view.view()), path(view.table()), this::quoted);
    // a view that is altered loses its triggers for good, names and all
    if (replace) {
      statements.addAll(writing.drop());
    }
    statements.addAll(super.make(view, replace));
    if (!replace) {
      // whoever stops half-way may run the whole again
      statements.addAll(writing.drop());
    }
    statements.addAll(writing.make());
    return statements;
  }

  @Override
  protected String alias(String name) {
    return name.toUpperCase(Locale.ROOT);
  }

  @Override
  protected List<String> rename(MoveTable move, String from, String to) {
    return List.of("ALTER TABLE " + from + " RENAME TO " + to);
  }

  @Override
  protected String storedView(String schema, String name) {
    return "SELECT "
        + HsqldbQueries.VIEW_TEXT
        + " FROM information_schema.views v WHERE v.table_schema = "
        + schema
        + " AND v.table_name = "
        + name;
  }
}
