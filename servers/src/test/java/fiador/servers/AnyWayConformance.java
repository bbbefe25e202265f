package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.Lookup;
import fiador.policies.AnyWay;
import fiador.servers.LineageConformance.Manner;
import fiador.servers.LineageConformance.Source;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;

/**
 * Who gets the values of tables, tried as each user: whoever sees a value of a column in any view
 * must be among those who get that column by any way, and whoever is said to use a view can.
 */
final class AnyWayConformance {
  private static final List<String> USERS = List.of("W1", "W2", "W3");

  private static final int ROUTINES = 8;
  private static final int COPIES = 6;

  /**
   * Something through which values come.
   *
   * @param read a query that gives all of them
   * @param grant what has to be granted, {@code SELECT ON v}
   * @param path its name for a survey
   */
  private record Door(String read, String grant, Privilege privilege, String path) {}

  private final Server server;
  private final Login login;
  private final Manner manner;
  private final RandomQueries queries;
  private final Random random;

  AnyWayConformance(
      Server server, Login login, Manner manner, RandomQueries queries, Random random) {
    this.server = server;
    this.login = login;
    this.manner = manner;
    this.queries = queries;
    this.random = random;
  }

  void check(
      Statement admin, List<Source> tables, List<Source> views, Function<Source, String> path)
      throws Exception {
    boolean hosts = queries.quoted("x").startsWith("`");
    List<Door> doors = new ArrayList<>();
    for (Source view : views) {
      String full = queries.full(view.name());
      doors.add(
          new Door(
              "SELECT * FROM " + full, "SELECT ON " + full, Privilege.SELECT, path.apply(view)));
    }
    addRoutines(admin, tables, views, path, doors);
    addCopies(admin, tables, views, path, doors);
    try {
      for (String user : USERS) {
        String secret = hosts ? " IDENTIFIED BY 'x'" : " PASSWORD 'x'";
        admin.execute("CREATE USER " + queries.quoted(user) + secret);
        grants(admin, user, tables, doors);
      }
      Access access = Forms.of(server.survey(login, "box", List.of(), Instant.now(), note -> {}));
      int compared = compare(admin, access, tables, doors, path);
      assertThat(compared).as("values seen through views").isPositive();
    } finally {
      for (String user : USERS) {
        drop(admin, user, hosts);
      }
    }
  }

  /** Each gives one value of some column, with its maker's rights. */
  private void addRoutines(
      Statement admin,
      List<Source> tables,
      List<Source> views,
      Function<Source, String> path,
      List<Door> doors)
      throws SQLException {
    for (int i = 0; i < ROUTINES; i++) {
      Source call = new Source("Call " + i, List.of(), 1);
      String full = queries.full(call.name());
      admin.execute(manner.routine().formatted(full, "SELECT max" + column(tables, views)));
      String from =
          manner.quote().equals("\"") && manner.database().isEmpty() ? " FROM (VALUES (0)) v" : "";
      doors.add(
          new Door(
              "SELECT " + full + "()" + from,
              "EXECUTE ON FUNCTION " + full + (manner.copies() ? "()" : ""),
              Privilege.EXECUTE,
              path.apply(call) + "()"));
      if (manner.copies()) {
        admin.execute("REVOKE ALL ON FUNCTION " + full + "() FROM PUBLIC");
      }
    }
  }

  /** What a query gave is kept, and read without another look at what it was read from. */
  private void addCopies(
      Statement admin,
      List<Source> tables,
      List<Source> views,
      Function<Source, String> path,
      List<Door> doors)
      throws SQLException {
    for (int i = 0; manner.copies() && i < COPIES; i++) {
      Source copy = new Source("Copy " + i, List.of("c"), 1);
      String full = queries.full(copy.name());
      admin.execute("CREATE MATERIALIZED VIEW " + full + " (c) AS SELECT " + column(tables, views));
      doors.add(
          new Door(
              "SELECT * FROM " + full, "SELECT ON " + full, Privilege.SELECT, path.apply(copy)));
    }
  }

  /** A column in parentheses, and where it is from. */
  private String column(List<Source> tables, List<Source> views) {
    List<Source> from = random.nextInt(3) == 0 ? views : tables;
    Source source = from.get(random.nextInt(from.size()));
    List<String> columns = source.columns().subList(1, source.columns().size());
    String column = queries.quoted(columns.get(random.nextInt(columns.size())));
    return "(" + column + ") FROM " + queries.full(source.name());
  }

  private void grants(Statement admin, String user, List<Source> tables, List<Door> doors)
      throws SQLException {
    try {
      admin.execute(
          "GRANT USAGE ON SCHEMA " + queries.quoted("view_box") + " TO " + queries.quoted(user));
    } catch (SQLException noSuchGate) {
      // there a schema is no gate
    }
    for (Door door : doors) {
      if (random.nextInt(3) == 0) {
        admin.execute("GRANT " + door.grant() + " TO " + queries.quoted(user));
      }
    }
    for (Source table : tables) {
      if (random.nextInt(4) == 0) {
        grant(admin, "SELECT (" + queries.quoted(table.columns().get(1)) + ")", table, user);
      }
    }
  }

  private void grant(Statement admin, String what, Source on, String user) throws SQLException {
    admin.execute(
        "GRANT " + what + " ON " + queries.full(on.name()) + " TO " + queries.quoted(user));
  }

  private void drop(Statement admin, String user, boolean hosts) throws SQLException {
    if (!hosts) {
      try {
        admin.execute("DROP OWNED BY " + queries.quoted(user));
      } catch (SQLException takenAlong) {
        // there a user's grants go with the user
      }
    }
    admin.execute("DROP USER " + queries.quoted(user));
  }

  private int compare(
      Statement admin,
      Access access,
      List<Source> tables,
      List<Door> doors,
      Function<Source, String> path)
      throws Exception {
    Lookup lookup = new Lookup(access);
    Map<String, Set<String>> seen = new TreeMap<>();
    Map<String, Set<Integer>> readable = new TreeMap<>();
    int calls = 0;
    for (String user : USERS) {
      Set<String> cells = new HashSet<>();
      Set<Integer> nodes = new HashSet<>();
      try (Connection theirs = server.connect(new Login(login.url(), user, "x"), null);
          Statement statement = theirs.createStatement()) {
        for (Door door : doors) {
          if (read(statement, door, cells)) {
            Lookup.Found found = lookup.node(door.path(), door.privilege().bit(), false);
            assertThat(found.problem()).as(door.path()).isNull();
            nodes.add(found.id());
            calls += door.privilege() == Privilege.EXECUTE ? 1 : 0;
          }
        }
      }
      seen.put(user, cells);
      readable.put(user, nodes);
    }
    assertThat(calls).as("routines called").isPositive();
    int compared = 0;
    AnyWay anyWay = new AnyWay(access, Clock.systemUTC());
    List<String> missed = new ArrayList<>();
    for (Source table : tables) {
      int node = lookup.node(path.apply(table), Privilege.SELECT.bit(), false).id();
      for (int column = 1; column < table.columns().size(); column++) {
        Set<String> getting = new TreeSet<>(direct(access, node, column));
        for (AnyWay.Way way : anyWay.of(node, column)) {
          for (AnyWay.Reader reader : way.readers()) {
            String user = access.bareName(reader.user());
            getting.add(user);
            if (USERS.contains(user) && !readable.get(user).contains(way.node())) {
              missed.add(user + " cannot read " + access.tree().path(way.node()));
            }
          }
        }
        Set<String> values = values(admin, table, table.columns().get(column));
        for (String user : USERS) {
          if (seen.get(user).stream().anyMatch(values::contains)) {
            compared++;
            if (!getting.contains(user)) {
              Set<String> both = new TreeSet<>(seen.get(user));
              both.retainAll(values);
              missed.add(
                  user
                      + " sees "
                      + both
                      + " of "
                      + table.name()
                      + "."
                      + table.columns().get(column));
            }
          }
        }
      }
    }
    assertThat(missed).as(String.valueOf(seen)).isEmpty();
    return compared;
  }

  private static Set<String> direct(Access access, int node, int column) {
    Set<String> users = new HashSet<>();
    for (Holding row : new Holders(access, Clock.systemUTC()).of(node)) {
      boolean reads = row.privilege() == Privilege.SELECT && row.state().works();
      if (reads && (row.columns() == null || row.columns().get(column))) {
        users.add(access.bareName(row.user()));
      }
    }
    return users;
  }

  private Set<String> values(Statement admin, Source table, String column) throws SQLException {
    Set<String> values = new HashSet<>();
    try (ResultSet rows =
        admin.executeQuery(
            "SELECT " + queries.quoted(column) + " FROM " + queries.full(table.name()))) {
      while (rows.next()) {
        values.add(rows.getString(1));
      }
    }
    return values;
  }

  /** Reads all that comes through a door; false where the user may not. */
  private static boolean read(Statement statement, Door door, Set<String> cells) {
    try (ResultSet rows = statement.executeQuery(door.read())) {
      while (rows.next()) {
        for (int column = 1; column <= rows.getMetaData().getColumnCount(); column++) {
          if (rows.getString(column) != null) {
            cells.add(rows.getString(column));
          }
        }
      }
      return true;
    } catch (SQLException refused) {
      return false;
    }
  }
}
