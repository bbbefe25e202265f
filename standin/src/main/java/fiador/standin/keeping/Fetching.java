package fiador.standin.keeping;

import fiador.standin.driver.StandInDriver;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Place;
import fiador.standin.estate.RefusedException;
import fiador.standin.queries.Fetch;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.Properties;
import java.util.Set;
import java.util.StringJoiner;

/** Rows of other servers, which are here while one statement is carried out and no longer. */
public final class Fetching implements AutoCloseable {
  /** Whoever can make such tables could have them lead round in circles. */
  private static final int MOST_HOPS = 4;

  private static final int MOST_ROWS = 100_000;
  private static final int MOST_BYTES = 64 << 20;
  private static final long SECONDS = 30;
  private static final int BATCH = 1_000;
  private static final Set<String> THIS_MACHINE = Set.of("localhost", "127.0.0.1");
  private static final String REFUSED = "42501";
  private static final String NOT_LET_IN = "28000";
  private static final String MISTAKEN = "42000";

  private final Connection keeper;
  private final List<String> made = new ArrayList<>();

  Fetching(Connection keeper) {
    this.keeper = keeper;
  }

  /** Makes the tables and leaves them empty. */
  void empty(List<Fetch> fetches) throws SQLException {
    for (Fetch fetch : fetches) {
      create(fetch);
    }
  }

  /**
   * Makes the tables, and asks for their rows.
   *
   * @param hops over how many servers it was come here already
   * @throws RefusedException when one of the others lets them not in, or not at that table
   * @throws MistakeException when rows cannot be had for another reason
   */
  void fill(List<Fetch> fetches, int hops) throws SQLException, RefusedException, MistakeException {
    if (hops >= MOST_HOPS) {
      throw new MistakeException("this leads on over more than " + MOST_HOPS + " servers");
    }
    long end = System.nanoTime() + SECONDS * 1_000_000_000L;
    for (Fetch fetch : fetches) {
      create(fetch);
      long left = (end - System.nanoTime()) / 1_000_000_000L;
      if (left < 1) {
        throw new MistakeException("other servers took too long");
      }
      fill(fetch, hops + 1, (int) left);
    }
  }

  private void create(Fetch fetch) throws SQLException {
    made.add(fetch.into());
    try (Statement statement = keeper.createStatement()) {
      statement.execute(Store.newTable(fetch.into(), fetch.table().columns()));
    }
  }

  private void fill(Fetch fetch, int hops, int seconds)
      throws SQLException, RefusedException, MistakeException {
    Place place = fetch.far().place();
    String where = fetch.table() + " is at " + place.name();
    Properties how = new Properties();
    how.setProperty("user", fetch.way().as());
    how.setProperty("password", fetch.way().secret());
    how.setProperty(StandInDriver.HOPS, String.valueOf(hops));
    how.setProperty(StandInDriver.MOST_BYTES, String.valueOf(MOST_BYTES));
    try (Connection there = Objects.requireNonNull(new StandInDriver().connect(url(place), how));
        Statement statement = there.createStatement()) {
      statement.setQueryTimeout(seconds);
      try (ResultSet rows = statement.executeQuery(query(fetch))) {
        copy(fetch, rows);
      }
    } catch (SQLException wrong) {
      switch (String.valueOf(wrong.getSQLState())) {
        case REFUSED -> throw new RefusedException(where + ", and refused there");
        case NOT_LET_IN -> throw new RefusedException(where + ", where nobody is let in so");
        case MISTAKEN ->
            throw new MistakeException(where + ", where there is nothing of that name");
        default -> throw new MistakeException(where + ", which gives no rows that fit");
      }
    }
  }

  private static String url(Place place) {
    String over = THIS_MACHINE.contains(place.host()) ? "jdbc:standin://" : "jdbc:standins://";
    return over + place.host() + ":" + place.port() + "/";
  }

  /** Names stand there in quotes: what they are here they are there. */
  private static String query(Fetch fetch) {
    StringJoiner columns = new StringJoiner(", ");
    fetch.columns().forEach(column -> columns.add(quoted(column)));
    StringJoiner path = new StringJoiner(".");
    if (fetch.far().place().database() != null) {
      path.add(quoted(fetch.far().place().database()));
    }
    fetch.far().names().forEach(name -> path.add(quoted(name)));
    String what = fetch.columns().isEmpty() ? "1" : columns.toString();
    return "SELECT " + what + " FROM " + path + " LIMIT " + (MOST_ROWS + 1);
  }

  private static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  private void copy(Fetch fetch, ResultSet rows) throws SQLException, MistakeException {
    List<String> columns = fetch.columns();
    for (int i = 1; i <= columns.size(); i++) {
      // over there a name is found whatever its case; whoever asks here means that one
      if (!rows.getMetaData().getColumnLabel(i).equals(columns.get(i - 1))) {
        throw new SQLException("no such column", MISTAKEN);
      }
    }
    // where their number alone is wanted, some column has to be named
    List<String> named =
        columns.isEmpty() ? List.of(fetch.table().columns().keySet().iterator().next()) : columns;
    StringJoiner into = new StringJoiner(", ", "(", ")");
    named.forEach(column -> into.add(quoted(column)));
    String places = String.join(", ", Collections.nCopies(named.size(), "?"));
    String sql =
        "INSERT INTO \"ROWS\"." + quoted(fetch.into()) + " " + into + " VALUES (" + places + ")";
    try (PreparedStatement insert = keeper.prepareStatement(sql)) {
      int count = 0;
      while (rows.next()) {
        if (++count > MOST_ROWS) {
          throw new MistakeException(
              "more than " + MOST_ROWS + " rows of " + fetch.table() + " are not fetched");
        }
        for (int i = 1; i <= named.size(); i++) {
          insert.setString(i, columns.isEmpty() ? null : rows.getString(i));
        }
        insert.addBatch();
        if (count % BATCH == 0) {
          insert.executeBatch();
        }
      }
      if (count % BATCH != 0) {
        insert.executeBatch();
      }
    }
  }

  @Override
  public void close() throws SQLException {
    try (keeper;
        Statement statement = keeper.createStatement()) {
      for (String name : made) {
        statement.execute("DROP TABLE IF EXISTS \"ROWS\"." + quoted(name));
      }
    }
  }
}
