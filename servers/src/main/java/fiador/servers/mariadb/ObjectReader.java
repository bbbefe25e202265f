package fiador.servers.mariadb;

import fiador.estate.ColumnType;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.grants.Sights.Doubt;
import fiador.servers.jdbc.Sql;
import fiador.servers.kind.GuardReader;
import fiador.sqltext.SqlReader;
import fiador.sqltext.lineage.LineageCollector;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.lineage.Relations;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.StringJoiner;
import java.util.function.Consumer;

/** Reads schemas, tables with their columns, views with what they read, sequences and routines. */
final class ObjectReader {
  /** Not a place for grants: everybody sees in it what concerns them. */
  private static final String LEFT_OUT = "information_schema";

  private static final String GUARD = "fiador_guard";

  private static final String KEPT =
      """
      select k.schema_name, k.object_name, k.table_schema, k.table_name, k.policies,
             k.stored = v.view_definition and v.security_type = 'DEFINER'
             and (v.algorithm = 'TEMPTABLE' or k.schema_name = 'fiador_guard')
             and v.view_definition like '% USE INDEX ()%' as as_made,
             v.view_definition as text
        from fiador_guard.kept k
        left join information_schema.views v
               on v.table_schema = k.schema_name and v.table_name = k.object_name
              and binary v.table_schema = binary k.schema_name
              and binary v.table_name = binary k.object_name
       order by 1, 2
      """;

  private static final Set<String> SYSTEM = Set.of("mysql", "performance_schema", "sys", GUARD);

  private static final String SCHEMAS =
      "select SCHEMA_NAME from information_schema.SCHEMATA order by binary SCHEMA_NAME";

  private static final String TABLES =
      """
      select t.TABLE_SCHEMA, t.TABLE_NAME, t.TABLE_TYPE, c.COLUMN_NAME, c.DATA_TYPE
        from information_schema.TABLES t
        left join information_schema.COLUMNS c
          on c.TABLE_SCHEMA = t.TABLE_SCHEMA and c.TABLE_NAME = t.TABLE_NAME
         and binary c.TABLE_SCHEMA = binary t.TABLE_SCHEMA
         and binary c.TABLE_NAME = binary t.TABLE_NAME
       where t.TABLE_SCHEMA not in ('information_schema', 'performance_schema')
       order by binary t.TABLE_SCHEMA, binary t.TABLE_NAME, c.ORDINAL_POSITION
      """;

  private static final String VIEWS =
      """
      select TABLE_SCHEMA, TABLE_NAME, VIEW_DEFINITION, DEFINER, SECURITY_TYPE
        from information_schema.VIEWS
       where TABLE_SCHEMA not in ('information_schema', 'performance_schema')
       order by binary TABLE_SCHEMA, binary TABLE_NAME
      """;

  private static final String PARAMETERS =
      """
      select SPECIFIC_SCHEMA, ROUTINE_TYPE, SPECIFIC_NAME, DATA_TYPE
        from information_schema.PARAMETERS
       where ORDINAL_POSITION > 0
       order by binary SPECIFIC_SCHEMA, ROUTINE_TYPE, binary SPECIFIC_NAME, ORDINAL_POSITION
      """;

  private static final String ROUTINES =
      """
      select db, type, name, definer, security_type, convert(body using utf8mb4) as body
        from mysql.proc
       where type in ('FUNCTION', 'PROCEDURE')
       order by db, name, type
      """;

  private final Catalog catalog;
  private final EstateBuilder estate;
  private final List<String> wanted;
  private final String keeper;
  private final Consumer<String> notes;
  private final Map<Integer, ViewSource> views = new LinkedHashMap<>();

  private final Map<Integer, Body> bodies = new LinkedHashMap<>();

  private record Body(String schema, String text) {}

  private record ViewSource(String schema, String name, String text, String definer, String type) {}

  ObjectReader(Catalog catalog, List<String> wanted, String keeper, Consumer<String> notes) {
    this.catalog = catalog;
    this.estate = catalog.estate();
    this.wanted = wanted;
    this.keeper = keeper;
    this.notes = notes;
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(connection, SCHEMAS, row -> schema(row.getString(1)));
    Map<List<String>, ViewSource> sources = new HashMap<>();
    Sql.rows(
        connection,
        VIEWS,
        row -> {
          ViewSource view =
              new ViewSource(
                  row.getString(1),
                  row.getString(2),
                  row.getString(3),
                  row.getString(4),
                  row.getString(5));
          sources.put(List.of(view.schema(), view.name()), view);
        });
    Sql.rows(connection, TABLES, row -> column(row, sources));
    Map<List<String>, StringJoiner> arguments = new HashMap<>();
    Sql.rows(
        connection,
        PARAMETERS,
        row ->
            arguments
                .computeIfAbsent(
                    List.of(row.getString(1), row.getString(2), row.getString(3)),
                    fresh -> new StringJoiner(", ", "(", ")"))
                .add(row.getString(4)));
    Sql.rows(connection, ROUTINES, row -> routine(row, arguments));
    LineageCollector lineage =
        new LineageCollector(catalog.builder(), named(null), new SqlReader(catalog.rules()));
    views.forEach((node, view) -> reads(node, view, lineage));
    bodies.forEach((node, body) -> lineage.routine(node, body.text(), true, named(body.schema())));
    boolean kept = catalog.node(GUARD, "kept") >= 0 && catalog.node(GUARD, "attributes") >= 0;
    Optional<Doubt> doubt = GuardCheck.of(connection, keeper, false);
    if (doubt.isPresent()) {
      catalog.builder().sights().doubt(0, doubt.get());
      notes.accept(
          "nothing in fiador_guard "
              + (doubt.get().foreign() ? "is believed: " : "was read: ")
              + String.join("; ", doubt.get().why()));
    } else if (kept && isRead(GUARD)) {
      catalog.builder().sights().guard(0, catalog.node(GUARD));
      new GuardReader(catalog.builder(), 0, catalog::node).read(connection, KEPT);
    }
  }

  private boolean isRead(String schema) {
    return wanted.isEmpty() || wanted.contains(schema);
  }

  private void schema(String name) {
    if (name.equals(LEFT_OUT)) {
      return;
    }
    int node = estate.node(0, NodeKind.SCHEMA, name, None.PRINCIPAL);
    catalog.node(node, name);
    if (SYSTEM.contains(name)) {
      estate.fact(node, NodeFact.SYSTEM);
    }
    if (!isRead(name) || name.equals("performance_schema")) {
      estate.fact(node, NodeFact.UNREAD);
    }
  }

  private void column(ResultSet row, Map<List<String>, ViewSource> sources) throws SQLException {
    String schema = row.getString(1);
    String table = row.getString(2);
    int in = catalog.node(schema);
    if (in < 0 || !isRead(schema)) {
      return;
    }
    int node = catalog.node(schema, table);
    if (node < 0) {
      node = table(in, table, row.getString(3), sources.get(List.of(schema, table)));
      catalog.node(node, schema, table);
    }
    if (row.getString(4) != null && estate.kind(node) != NodeKind.SEQUENCE) {
      estate.column(row.getString(4));
      if (!SYSTEM.contains(schema)) {
        estate.type(type(row.getString(5)));
      }
    }
  }

  /** A timestamp here is what the session's time zone makes of it. */
  private static ColumnType type(String name) {
    return switch (name) {
      case "varchar", "tinytext", "text", "mediumtext", "longtext" -> ColumnType.TEXT;
      case "char" -> ColumnType.PADDED;
      case "tinyint", "smallint", "mediumint", "int", "bigint" -> ColumnType.INTEGER;
      case "decimal" -> ColumnType.DECIMAL;
      case "float", "double" -> ColumnType.FLOAT;
      case "date" -> ColumnType.DATE;
      case "datetime" -> ColumnType.TIMESTAMP;
      default -> ColumnType.OTHER;
    };
  }

  private int table(int in, String name, String type, ViewSource view) {
    NodeKind kind =
        switch (type) {
          case "VIEW", "SYSTEM VIEW" -> NodeKind.VIEW;
          case "SEQUENCE" -> NodeKind.SEQUENCE;
          default -> NodeKind.TABLE;
        };
    if (view == null) {
      return estate.node(in, kind, name, None.PRINCIPAL);
    }
    int definer = catalog.definer(view.definer());
    int node = estate.node(in, kind, name, definer);
    if (view.type().equals("INVOKER")) {
      estate.fact(node, NodeFact.INVOKER);
    } else if (definer < 0) {
      estate.fact(node, NodeFact.ORPHANED);
    }
    views.put(node, view);
    return node;
  }

  private void routine(ResultSet row, Map<List<String>, StringJoiner> arguments)
      throws SQLException {
    String schema = row.getString("db");
    String type = row.getString("type");
    String name = row.getString("name");
    int in = catalog.node(schema);
    if (in < 0 || !isRead(schema)) {
      return;
    }
    StringJoiner types = arguments.get(List.of(schema, type, name));
    String full = name + (types == null ? "()" : types);
    int definer = catalog.definer(row.getString("definer"));
    int node = estate.node(in, NodeKind.ROUTINE, full, definer);
    catalog.node(node, schema, type, name);
    if (row.getString("body") != null && !SYSTEM.contains(schema)) {
      bodies.put(node, new Body(schema, row.getString("body")));
    }
    if (type.equals("PROCEDURE")) {
      estate.fact(node, NodeFact.PROCEDURE);
    }
    if (row.getString("security_type").equals("INVOKER")) {
      estate.fact(node, NodeFact.INVOKER);
    } else if (definer < 0) {
      estate.fact(node, NodeFact.ORPHANED);
    } else if (!catalog.isThere(row.getString("definer"))) {
      estate.fact(node, NodeFact.DEPUTIZED);
    }
  }

  /** What a name without a schema means in a routine is a table of the routine's own schema. */
  private Relations named(String home) {
    return new Relations() {
      @Override
      public int node(String schema, String name) {
        String in = schema == null ? home : schema;
        return in == null ? -1 : catalog.node(in, name);
      }

      @Override
      public List<String> columns(int node) {
        return estate.columnNames(node);
      }
    };
  }

  private void reads(int node, ViewSource view, LineageCollector lineage) {
    lineage.view(node, view.text());
    try {
      ViewText text = ViewText.of(lineage.quoted(view.text()));
      text.tables()
          .forEach(
              (table, columns) -> {
                int under = catalog.node(table.schema(), table.name());
                if (under >= 0) {
                  catalog.builder().reads(node, under, columnSet(under, columns));
                }
              });
      text.functions()
          .forEach(
              function -> {
                int under = catalog.node(function.schema(), "FUNCTION", function.name());
                if (under >= 0) {
                  catalog.builder().reads(node, under, fiador.grants.ColumnSets.WHOLE);
                }
              });
    } catch (NotUnderstood unknown) {
      notes.accept(
          "what the view "
              + view.schema()
              + "."
              + view.name()
              + " reads could not be worked out: whether it can be read is judged by the view alone");
    }
  }

  private int columnSet(int under, Set<String> columns) {
    Map<String, Integer> ordinals = estate.columnOrdinals(under);
    int[] known =
        columns.stream().filter(ordinals::containsKey).mapToInt(ordinals::get).sorted().toArray();
    return known.length == 0
        ? fiador.grants.ColumnSets.WHOLE
        : catalog.builder().columnSets().intern(known);
  }
}
