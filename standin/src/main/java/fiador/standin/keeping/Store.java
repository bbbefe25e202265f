package fiador.standin.keeping;

import fiador.standin.deeds.Rows;
import fiador.standin.deeds.Secrets;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import fiador.standin.estate.Warehouse;
import fiador.standin.house.House;
import fiador.standin.queries.CatalogViews;
import fiador.standin.queries.Fetch;
import fiador.standin.queries.Statements;
import fiador.standin.queries.Use;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Where rows are kept: a database under names nobody can guess, asked by an account that may read
 * and change rows there and nothing else. What was used and refused is kept there too.
 */
public final class Store implements Rows, AutoCloseable {
  private static final String KEEPER = "KEEPER";
  private static final String ASKER = "ASKER";
  private static final int SECONDS = 30;
  private static final String USES = "uses";

  /** Of each account. */
  private static final int MOST_USES = 100_000;

  /** Column types as the engine has them, and as the language does. */
  private static final Map<String, String> SHOWN =
      Map.of(
          "CHARACTER VARYING",
          "varchar",
          "DOUBLE PRECISION",
          "double",
          "NUMERIC",
          "decimal",
          "DECFLOAT",
          "decimal");

  private final String plain;
  private final String secret;
  private final Vault vault;
  private final String asker;
  private final Connection keeper;
  private final Statements statements;
  private final House house;
  private final Warehouse warehouse;
  private final Uses uses;
  private long filled = -1;

  /**
   * Opens it.
   *
   * @param url where the engine keeps it
   * @param secret its keeper's
   * @param vault for secrets that are said to others
   */
  public Store(
      String url,
      String secret,
      Vault vault,
      House house,
      Warehouse warehouse,
      Statements statements)
      throws SQLException {
    // how it is opened is the keeper's to say, who does so first
    this.plain = url.replaceFirst(";.*", "");
    this.secret = secret;
    this.vault = vault;
    this.house = house;
    this.warehouse = warehouse;
    this.statements = statements;
    this.asker = Secrets.random();
    this.keeper = DriverManager.getConnection(url, KEEPER, secret);
    run("CREATE SCHEMA IF NOT EXISTS \"ROWS\"");
    run("CREATE SCHEMA IF NOT EXISTS \"CATALOG\"");
    run("CREATE USER IF NOT EXISTS " + ASKER + " PASSWORD '" + asker + "'");
    run("ALTER USER " + ASKER + " SET PASSWORD '" + asker + "'");
    run("GRANT SELECT, INSERT, UPDATE, DELETE ON SCHEMA \"ROWS\" TO " + ASKER);
    run("GRANT SELECT ON SCHEMA \"CATALOG\" TO " + ASKER);
    Texts.provide(keeper);
    for (Map.Entry<String, List<String>> view : CatalogViews.ALL.entrySet()) {
      String columns = String.join(" VARCHAR, ", view.getValue()) + " VARCHAR";
      if (!view.getKey().equals(USES)) {
        // filled anew after each start, and may have had other columns before
        run("DROP TABLE IF EXISTS " + table(view.getKey()));
      }
      run(
          "CREATE TABLE IF NOT EXISTS "
              + table(view.getKey())
              + " ("
              + columns.toUpperCase(Locale.ROOT)
              + ")");
    }
    this.uses = new Uses(keeper, table(USES), MOST_USES);
  }

  private static String table(String view) {
    return "\"CATALOG\".\"" + view.toUpperCase(Locale.ROOT) + "\"";
  }

  private void run(String sql) throws SQLException {
    try (Statement statement = keeper.createStatement()) {
      statement.execute(sql);
    }
  }

  /** A connection for somebody's statements. */
  public Connection connect() throws SQLException {
    return DriverManager.getConnection(plain, ASKER, asker);
  }

  /** Throws away what was made and never answered: tables that no journal knows. */
  public void tidy() throws SQLException {
    Set<String> known = new HashSet<>();
    warehouse.things().stream().map(Thing::kept).filter(Objects::nonNull).forEach(known::add);
    Set<String> lost = new HashSet<>();
    try (Statement statement = keeper.createStatement();
        ResultSet found =
            statement.executeQuery(
                "select table_name from information_schema.tables where table_schema = 'ROWS'")) {
      while (found.next()) {
        lost.add(found.getString(1));
      }
    }
    lost.removeAll(known);
    for (String table : lost) {
      run("DROP TABLE \"ROWS\".\"" + table + "\"");
    }
  }

  @Override
  public String create(Map<String, String> columns) throws MistakeException {
    String name = "T" + Secrets.random();
    try {
      run(newTable(name, columns));
    } catch (SQLException wrong) {
      throw new MistakeException("there can be no table of these columns");
    }
    return name;
  }

  /** The engine's statement that makes a table for rows. */
  static String newTable(String name, Map<String, String> columns) {
    StringBuilder sql = new StringBuilder("CREATE TABLE \"ROWS\".\"" + name + "\" (");
    String comma = "";
    for (Map.Entry<String, String> column : columns.entrySet()) {
      sql.append(comma).append('"').append(column.getKey().replace("\"", "\"\"")).append("\" ");
      sql.append(column.getValue().replace("double", "double precision"));
      comma = ", ";
    }
    return sql.append(')').toString();
  }

  /**
   * The rows that a statement reads and other servers have; whoever asks for them closes it.
   *
   * @param hops over how many servers it was come here already
   */
  public Fetching fetched(List<Fetch> fetches, int hops)
      throws SQLException, RefusedException, MistakeException {
    Fetching fetching = fetching();
    try {
      fetching.fill(fetches, hops);
      return fetching;
    } catch (SQLException | RefusedException | MistakeException wrong) {
      fetching.close();
      throw wrong;
    }
  }

  private Fetching fetching() throws SQLException {
    return new Fetching(DriverManager.getConnection(plain, KEEPER, secret));
  }

  @Override
  public String sealed(String said) {
    return vault.sealed(said);
  }

  @Override
  public String opened(String sealed) throws MistakeException {
    return vault.opened(sealed);
  }

  /** Throws the rows of what is there no longer away. */
  public void drop(Thing thing) {
    if (thing.kept() == null) {
      return;
    }
    try {
      run("DROP TABLE IF EXISTS \"ROWS\".\"" + thing.kept() + "\"");
    } catch (SQLException stays) {
      // nothing leads to it any more, and the next start throws it away
    }
  }

  @Override
  public void check(Thing table, String expression) throws MistakeException {
    String sql = statements.checked(table, expression);
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      statement.execute("EXPLAIN " + sql);
    } catch (SQLException wrong) {
      throw new MistakeException(Engine.said(wrong));
    }
  }

  @Override
  public Shown shown(String query, Session session) throws MistakeException, RefusedException {
    Statements.Ready ready = statements.ready(query, session, uses -> {});
    if (!ready.query() || ready.catalog()) {
      throw new MistakeException("a view shows tables and views");
    }
    Map<String, String> columns = new LinkedHashMap<>();
    try (Fetching none = fetching();
        Connection connection = connect();
        Statement statement = connection.createStatement()) {
      none.empty(ready.fetches());
      statement.setMaxRows(1);
      statement.setQueryTimeout(SECONDS);
      try (ResultSet one = statement.executeQuery(ready.sql())) {
        ResultSetMetaData found = one.getMetaData();
        for (int i = 1; i <= found.getColumnCount(); i++) {
          String type = found.getColumnTypeName(i);
          String shown = SHOWN.getOrDefault(type, type.toLowerCase(Locale.ROOT));
          if (columns.putIfAbsent(found.getColumnLabel(i), shown) != null) {
            throw new MistakeException("there are two columns " + found.getColumnLabel(i));
          }
        }
      }
    } catch (SQLException wrong) {
      throw new MistakeException(Engine.said(wrong));
    }
    return new Shown(columns, ready.uses().stream().map(Use::thing).toList());
  }

  /** Brings what the catalog tells up to the last change. Cost: all of it, after a change. */
  public synchronized void fill() throws SQLException {
    if (filled == warehouse.version()) {
      return;
    }
    CatalogRows rows = new CatalogRows(house, warehouse);
    keeper.setAutoCommit(false);
    try {
      for (Map.Entry<String, List<String>> view : CatalogViews.ALL.entrySet()) {
        if (!view.getKey().equals(USES)) {
          run("DELETE FROM " + table(view.getKey()));
          insert(view.getKey(), rows.of(view.getKey()));
        }
      }
      keeper.commit();
      filled = warehouse.version();
    } catch (SQLException wrong) {
      keeper.rollback();
      throw wrong;
    } finally {
      keeper.setAutoCommit(true);
    }
  }

  private void insert(String view, List<@Nullable String[]> rows) throws SQLException {
    int columns = Objects.requireNonNull(CatalogViews.ALL.get(view)).size();
    String places = String.join(", ", Collections.nCopies(columns, "?"));
    try (PreparedStatement insert =
        keeper.prepareStatement("INSERT INTO " + table(view) + " VALUES (" + places + ")")) {
      for (@Nullable String[] row : rows) {
        for (int i = 0; i < row.length; i++) {
          insert.setString(i + 1, row[i]);
        }
        insert.addBatch();
      }
      if (!rows.isEmpty()) {
        insert.executeBatch();
      }
    }
  }

  /** Notes what somebody did with what, or was kept from. */
  public synchronized void note(
      Instant at, Principal user, Principal acting, boolean refused, Map<Use, Integer> used)
      throws SQLException {
    List<@Nullable String[]> rows = new java.util.ArrayList<>();
    for (Use use : used.keySet()) {
      @Nullable String[] place = CatalogRows.place(use.thing());
      rows.add(
          new @Nullable String[] {
            at.toString(),
            user.name(),
            acting == user ? null : acting.name(),
            refused ? "refused" : "done",
            use.privilege(),
            use.thing().kind(),
            place[0],
            place[1],
            place[2]
          });
    }
    uses.note(user.name(), rows);
  }

  /** The same thing once, however often it is named. */
  public static Map<Use, Integer> once(List<Use> uses) {
    Map<Use, Integer> counted = new HashMap<>();
    uses.forEach(use -> counted.merge(use, 1, Integer::sum));
    return counted;
  }

  @Override
  public void close() throws SQLException {
    keeper.close();
  }
}
