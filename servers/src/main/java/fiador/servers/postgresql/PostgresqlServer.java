package fiador.servers.postgresql;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.servers.Dialect;
import fiador.servers.Login;
import fiador.servers.Server;
import fiador.servers.ServerException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.function.Consumer;
import org.postgresql.Driver;
import org.postgresql.PGProperty;

/** PostgreSQL, versions 14 to 18. */
public final class PostgresqlServer implements Server {
  private static final String PREFIX = "jdbc:postgresql:";
  private static final int OLDEST = 14;

  @Override
  public String kind() {
    return "postgresql";
  }

  @Override
  public String urlPrefix() {
    return PREFIX;
  }

  @Override
  public Dialect dialect() {
    return new PostgresqlDialect();
  }

  @Override
  public Connection connect(Login login, String database) throws ServerException {
    Properties settings = Driver.parseURL(login.url(), new Properties());
    if (settings == null) {
      throw new ServerException(
          "the address "
              + login.url()
              + " is not a PostgreSQL one; expected jdbc:postgresql://HOST:PORT/DATABASE",
          null);
    }
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    settings.setProperty(PGProperty.APPLICATION_NAME.getName(), "fiador");
    settings.setProperty(PGProperty.LOGIN_TIMEOUT.getName(), "15");
    if (database != null) {
      settings.setProperty(PGProperty.PG_DBNAME.getName(), database);
    }
    try {
      return new Driver().connect(PREFIX + "//", settings);
    } catch (SQLException refused) {
      throw explained(login, database, refused);
    }
  }

  private static ServerException explained(Login login, String database, SQLException refused) {
    String state = refused.getSQLState() == null ? "" : refused.getSQLState();
    String where = login.url() + (database == null ? "" : ", database " + database);
    String what =
        switch (state) {
          case "28P01", "28000" ->
              "refused the login " + login.user() + "; check the name and the password";
          case "3D000" -> "has no such database";
          case "42501" -> "does not let " + login.user() + " connect to that database";
          case "08001", "08006", "08004" ->
              "cannot be reached; is it running, and is the address right?";
          default -> "refused the connection";
        };
    return new ServerException(
        "the server at " + where + " " + what + " (" + refused.getMessage() + ")", refused);
  }

  @Override
  public Access survey(
      Login login, String name, List<String> databases, Instant now, Consumer<String> notes)
      throws ServerException {
    try (Connection connection = connect(login, null)) {
      int major = connection.getMetaData().getDatabaseMajorVersion();
      if (major < OLDEST) {
        throw new ServerException(
            "the server at " + login.url() + " is version " + major + "; 14 or newer is needed",
            null);
      }
      beginReading(connection);
      Catalog catalog = new Catalog(major);
      Map<String, Database> found = new PrincipalReader(catalog).read(connection, name);
      for (String wanted : databases) {
        if (!found.containsKey(wanted)) {
          throw new ServerException(
              "the server at "
                  + login.url()
                  + " has no database "
                  + wanted
                  + "; it has "
                  + String.join(", ", found.keySet()),
              null);
        }
      }
      Map<Integer, Database> byNode = new HashMap<>();
      found.values().forEach(database -> byNode.put(database.node(), database));
      new AclReader(catalog).readDatabases(connection, byNode);
      String home = connection.getCatalog();
      EstateBuilder estate = catalog.builder().estate();
      for (Map.Entry<String, Database> entry : found.entrySet()) {
        boolean wanted = databases.isEmpty() || databases.contains(entry.getKey());
        if (wanted && !estate.is(entry.getValue().node(), NodeFact.CLOSED)) {
          readDatabase(login, entry.getKey(), entry.getValue(), connection, home, notes);
        }
      }
      String version = connection.getMetaData().getDatabaseProductVersion();
      return catalog.builder().build(new Origin(name, kind(), version, now), catalog.rules());
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of " + login.url() + " failed: " + broken.getMessage(), broken);
    }
  }

  private void readDatabase(
      Login login,
      String name,
      Database database,
      Connection open,
      String home,
      Consumer<String> notes)
      throws SQLException {
    if (name.equals(home)) {
      readDatabase(open, database);
      return;
    }
    try (Connection connection = connect(login, name)) {
      beginReading(connection);
      readDatabase(connection, database);
    } catch (ServerException refused) {
      notes.accept(
          "database " + name + " was not looked into: " + login.user() + " cannot connect to it");
    }
  }

  private static void readDatabase(Connection connection, Database database) throws SQLException {
    new ObjectReader(database).read(connection);
    new AclReader(database.catalog()).read(connection, database);
    new ViewReader(database).read(connection);
    new LineageReader(database).read(connection);
    new SightReader(database).read(connection);
    database.catalog().builder().estate().unset(database.node(), NodeFact.UNREAD);
  }

  /** One unchanging picture of the catalog for all queries, and nothing can be written. */
  private static void beginReading(Connection connection) throws SQLException {
    connection.setAutoCommit(false);
    connection.setReadOnly(true);
    connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
  }
}
