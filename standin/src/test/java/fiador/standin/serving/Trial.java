package fiador.standin.serving;

import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** A stand-in to try things on, and who works there. */
public final class Trial implements AutoCloseable {
  /** Grants and denials that come down, gates on schemas, views that are checked below. */
  public static final String HOUSE =
      """
      house: trial
      rules:
        privileges:
          server: [connect]
          database: [create, select]
          schema: [usage, create, select, insert]
          table: [select, insert, update, delete]
          view: [select]
          columns: [select, insert, update]
        gates:
          - {on: schema, needs: usage}
        roles: all on
        owners: object
        names: {unquoted: lower}
        so: [denials, schema grants reach down, everybody holds roles, grant options,
          checks under views, later grants, locks accounts, renames users, renames roles,
          changes owners, columns apart, digests, frobs]
      """;

  private final StandIn standIn;

  private Trial(StandIn standIn) {
    this.standIn = standIn;
  }

  /** One in a folder. */
  public static Trial in(Path folder) throws IOException {
    return new Trial(StandIn.start(settings(folder, HOUSE)));
  }

  /** One of another house. */
  public static Trial in(Path folder, String house) throws IOException {
    return new Trial(StandIn.start(settings(folder, house)));
  }

  static Settings settings(Path folder, String house) {
    return Settings.local(folder, house, "keeper", "first secret".toCharArray(), 0);
  }

  StandIn standIn() {
    return standIn;
  }

  String address() {
    return "jdbc:standin://127.0.0.1:" + standIn.port() + "/";
  }

  /** The first user. */
  public Connection keeper() throws SQLException {
    return DriverManager.getConnection(address(), "keeper", "first secret");
  }

  /** Somebody whose secret is {@code s}. */
  public Connection as(String user) throws SQLException {
    return DriverManager.getConnection(address(), user, "s");
  }

  /** Does all of it, one a line. */
  public static void run(Connection connection, String statements) throws SQLException {
    for (String sql : statements.split(";\\s*\n", -1)) {
      if (!sql.isBlank()) {
        try (Statement statement = connection.createStatement()) {
          statement.execute(sql.strip());
        }
      }
    }
  }

  /** Rows, each in one text with bars. */
  public static List<String> rows(Connection connection, String query) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet found = statement.executeQuery(query)) {
      while (found.next()) {
        List<String> row = new ArrayList<>();
        for (int i = 1; i <= found.getMetaData().getColumnCount(); i++) {
          row.add(String.valueOf(found.getString(i)));
        }
        rows.add(String.join("|", row));
      }
    }
    return rows;
  }

  /** What is said to a statement that does not work: its state, and the message. */
  public static String no(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
      return "it worked";
    } catch (SQLException refused) {
      return refused.getSQLState() + " " + refused.getMessage();
    }
  }

  @Override
  public void close() throws IOException {
    standIn.close();
  }
}
