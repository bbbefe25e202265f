package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.Lineage;
import fiador.grants.Lookup;
import fiador.grants.Reads;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;

/**
 * What a survey says the columns of random views show, against the server: when a table's column is
 * changed and a view's column changes with it, that one shows the other; and what is said to come
 * as it is holds the very values. Conditions let every row through, so that they change nothing.
 */
public final class LineageConformance {
  private static final int VIEWS = 25;
  static final int TABLES = 3;

  /**
   * What differs between the servers.
   *
   * @param quote what quotes names
   * @param odd a name with a quote in it
   * @param modern whether window functions and named queries work in views
   * @param join the aggregate that joins texts in their order, with %s twice for the text
   * @param text the type of texts
   * @param database what stands before the schema in a path; empty or with its dot
   * @param routine what makes a routine that gives one value with its maker's rights, with %s for
   *     its name and for the query
   * @param copies whether queries can be stored as copies
   */
  public record Manner(
      String quote,
      String odd,
      boolean modern,
      String join,
      String text,
      String database,
      String routine,
      boolean copies) {}

  /** With how many rows there are of one id. */
  record Source(String name, List<String> columns, int rows) {}

  private record Cell(int node, int column) {}

  private final Server server;
  private final Login login;
  private final Manner manner;
  private final Random random;
  private final List<Source> sources = new ArrayList<>();
  private final List<Source> views = new ArrayList<>();
  private final Map<String, String> texts = new HashMap<>();
  private final RandomQueries queries;
  private int said;
  private int changed;

  /** In a schema named view_box that is there already. */
  public LineageConformance(Server server, Login login, Manner manner, long seed) {
    this.server = server;
    this.login = login;
    this.manner = manner;
    this.random = new Random(seed);
    this.queries = new RandomQueries(manner, random, sources);
  }

  /** Runs it. */
  public void run(Connection admin) throws Exception {
    try (Statement statement = admin.createStatement()) {
      for (int table = 0; table < TABLES; table++) {
        table(statement, table);
      }
      int refused = 0;
      for (int view = 0; view < VIEWS; view++) {
        refused += view(statement, view) ? 0 : 1;
      }
      assertThat(refused).as("views that the server did not take").isLessThan(VIEWS / 2);
      Access access = Forms.of(server.survey(login, "box", List.of(), Instant.now(), note -> {}));
      compare(statement, access);
      new AnyWayConformance(server, login, manner, queries, random)
          .check(statement, sources.subList(0, TABLES), views, this::pathOf);
    }
    // else what it says would be worth nothing
    assertThat(said).isLessThan(changed * 3);
    assertThat(changed).isGreaterThan(VIEWS / 2);
  }

  /**
   * What a survey says a routine may read: names of tables with those of columns, {@code t.a}.
   *
   * @param path the routine's
   */
  public static Set<String> read(Access access, String path) {
    Lookup.Found routine = new Lookup(access).node(path, Privilege.EXECUTE.bit(), true);
    assertThat(routine.ok()).as(path + " " + (routine.ok() ? "" : routine.problem())).isTrue();
    Set<String> read = new TreeSet<>();
    Reads reads = access.reads();
    for (int row : reads.byView().run(routine.id())) {
      int under = reads.under().get(row);
      for (int column : access.columnSets().ordinals(reads.columns().get(row))) {
        read.add(access.tree().name(under) + "." + access.tree().column(under, column));
      }
    }
    return read;
  }

  private void table(Statement statement, int table) throws SQLException {
    List<String> columns = List.of("id", "plain", "Mixed Case", "semi;colon", manner.odd());
    Source source = new Source("T " + table, columns, 1);
    StringBuilder sql = new StringBuilder("CREATE TABLE " + queries.full(source.name()) + " (");
    sql.append(queries.quoted("id")).append(" INTEGER");
    for (String column : columns.subList(1, columns.size())) {
      sql.append(", ").append(queries.quoted(column)).append(" ").append(manner.text());
    }
    statement.execute(sql.append(")").toString());
    for (int row = 1; row <= 3; row++) {
      StringBuilder values =
          new StringBuilder("INSERT INTO " + queries.full(source.name()) + " VALUES (" + row);
      for (int column = 1; column < columns.size(); column++) {
        values.append(", '").append(word()).append("'");
      }
      statement.execute(values.append(")").toString());
    }
    sources.add(source);
  }

  private String pathOf(Source source) {
    return manner.database() + "view_box." + "\"" + source.name() + "\"";
  }

  private String word() {
    StringBuilder word = new StringBuilder();
    for (int left = 3 + random.nextInt(7); left > 0; left--) {
      char letter = (char) ('a' + random.nextInt(26));
      word.append(random.nextBoolean() ? letter : Character.toUpperCase(letter));
    }
    return word.toString();
  }

  /** Makes a view; false when the server refuses it. */
  private boolean view(Statement statement, int number) throws SQLException {
    int width = 1 + random.nextInt(3);
    List<String> names = new ArrayList<>(List.of("id"));
    for (int column = 0; column < width; column++) {
      names.add(column == 0 ? "V " + number : "v" + column);
    }
    String query = queries.query(names);
    Source view = new Source("View " + number, names, queries.rows());
    String columns = String.join(", ", names.stream().map(queries::quoted).toList());
    String sql = "CREATE VIEW " + queries.full(view.name()) + " (" + columns + ") AS " + query;
    try {
      statement.execute(sql);
    } catch (SQLException refused) {
      // a server may not be up to what is standard
      return false;
    }
    try (ResultSet rows = statement.executeQuery("SELECT * FROM " + queries.full(view.name()))) {
      rows.next();
    } catch (SQLException broken) {
      // nor to what it took
      statement.execute("DROP VIEW " + queries.full(view.name()));
      return false;
    }
    texts.put(view.name(), query);
    views.add(view);
    sources.add(view);
    return true;
  }

  private void compare(Statement statement, Access access) throws SQLException {
    Map<String, List<List<String>>> before = contents(statement);
    for (int t = 0; t < TABLES; t++) {
      Source table = sources.get(t);
      int node = node(access, table.name());
      for (int column = 1; column < table.columns().size(); column++) {
        String name = queries.quoted(table.columns().get(column));
        List<String> kept = new ArrayList<>();
        for (int row = 1; row <= 3; row++) {
          kept.add(value(statement, table, name, row));
          set(statement, table, name, row, "'" + word() + "'");
        }
        Cell cell = new Cell(node, column);
        differences(access, before, contents(statement), cell);
        for (int row = 1; row <= 3; row++) {
          set(statement, table, name, row, "'" + kept.get(row - 1) + "'");
        }
        same(access, before, cell, new HashSet<>(kept));
      }
    }
  }

  private void differences(
      Access access,
      Map<String, List<List<String>>> before,
      Map<String, List<List<String>>> after,
      Cell cell) {
    for (Source view : views) {
      int node = node(access, view.name());
      for (int column = 0; column < view.columns().size(); column++) {
        boolean differs =
            !before.get(view.name()).get(column).equals(after.get(view.name()).get(column));
        boolean shown = shown(access, node, column).contains(cell);
        said += shown ? 1 : 0;
        changed += differs ? 1 : 0;
        assertThat(shown || !differs)
            .as(
                "%s column %s shows column %s of %s: %s",
                view.name(),
                view.columns().get(column),
                cell.column(),
                access.tree().path(cell.node()),
                texts.get(view.name()))
            .isTrue();
      }
    }
  }

  /** A column that shows one other as it is holds no other values. */
  private void same(
      Access access, Map<String, List<List<String>>> before, Cell cell, Set<String> values) {
    for (Source view : views) {
      int node = node(access, view.name());
      for (int column = 0; column < view.columns().size(); column++) {
        if (isOnly(access, node, column, cell) && !texts.get(view.name()).contains(" UNION ")) {
          assertThat(values)
              .as(view.name() + ": " + texts.get(view.name()))
              .containsAll(before.get(view.name()).get(column));
        }
      }
    }
  }

  /** Whether a view's column shows just that one of a table, as it is. */
  private static boolean isOnly(Access access, int view, int column, Cell cell) {
    Lineage lineage = access.reads().lineage();
    boolean found = false;
    for (int row : lineage.byView().run(view)) {
      if (lineage.column().get(row) == column) {
        Cell shown = new Cell(lineage.under().get(row), lineage.from().get(row));
        if (!shown.equals(cell) || !lineage.isAsIs(row)) {
          return false;
        }
        found = true;
      }
    }
    return found;
  }

  /** The tables' columns that a view's column shows, through views of views. */
  private Set<Cell> shown(Access access, int view, int column) {
    Lineage lineage = access.reads().lineage();
    assertThat(lineage.isKnown(view))
        .as("understood: %s", texts.get(access.tree().name(view)))
        .isTrue();
    Set<Cell> cells = new HashSet<>();
    for (int row : lineage.byView().run(view)) {
      int under = lineage.under().get(row);
      if (lineage.column().get(row) == column && under != Lineage.NOTHING) {
        if (access.reads().hasAny(under)) {
          cells.addAll(shown(access, under, lineage.from().get(row)));
        } else {
          cells.add(new Cell(under, lineage.from().get(row)));
        }
      }
    }
    return cells;
  }

  private int node(Access access, String name) {
    String path = pathOf(new Source(name, List.of(), 0));
    Lookup.Found found = new Lookup(access).node(path, Privilege.SELECT.bit(), true);
    assertThat(found.ok()).as(path + " " + (found.ok() ? "" : found.problem())).isTrue();
    return found.id();
  }

  private String value(Statement statement, Source table, String column, int row)
      throws SQLException {
    String from =
        " FROM " + queries.full(table.name()) + " WHERE " + queries.quoted("id") + " = " + row;
    try (ResultSet rows = statement.executeQuery("SELECT " + column + from)) {
      rows.next();
      return rows.getString(1);
    }
  }

  private void set(Statement statement, Source table, String column, int row, String value)
      throws SQLException {
    String where = " WHERE " + queries.quoted("id") + " = " + row;
    statement.execute(
        "UPDATE " + queries.full(table.name()) + " SET " + column + " = " + value + where);
  }

  /** The values of each view's columns, sorted. */
  private Map<String, List<List<String>>> contents(Statement statement) throws SQLException {
    Map<String, List<List<String>>> all = new HashMap<>();
    for (Source view : views) {
      List<List<String>> columns = new ArrayList<>();
      view.columns().forEach(name -> columns.add(new ArrayList<>()));
      try (ResultSet rows = statement.executeQuery("SELECT * FROM " + queries.full(view.name()))) {
        while (rows.next()) {
          for (int column = 0; column < columns.size(); column++) {
            columns.get(column).add(String.valueOf(rows.getString(column + 1)));
          }
        }
      }
      columns.forEach(each -> each.sort(null));
      all.put(view.name(), columns);
    }
    return all;
  }
}
