package fiador.servers.postgresql;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.grants.Sights.Doubt;
import fiador.grants.rules.PostgresqlRules;
import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Sql;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/** PostgreSQL, versions 14 to 18. */
public final class PostgresqlServer implements Server {
  private static final int OLDEST = 14;
  private static final int PORT = 5432;

  @Override
  public String kind() {
    return PostgresqlRules.KIND;
  }

  @Override
  public String urlPrefix() {
    return PostgresqlConnections.PREFIX;
  }

  @Override
  public Dialect dialect() {
    return new PostgresqlDialect();
  }

  @Override
  public Connection connect(Login login, String database) throws ServerException {
    return PostgresqlConnections.open(login, database);
  }

  @Override
  public String identityQuery() {
    return "select system_identifier::text from pg_control_system()";
  }

  @Override
  public Optional<Doubt> guardDoubt(Connection connection, Login login) throws SQLException {
    return Optional.ofNullable(GuardCheck.of(connection, login.keeper()).doubt());
  }

  @Override
  public List<String> hiddenCode(Connection connection, String schema, String name, boolean writing)
      throws SQLException {
    String quoted = dialect().quoted(schema) + "." + dialect().quoted(name);
    return HiddenCode.of(connection, schema, name, quoted, writing);
  }

  @Override
  public Access survey(
      Login login, String name, List<String> databases, Instant now, Consumer<String> notes)
      throws ServerException {
    try (Connection connection = connect(login, null)) {
      int major = connection.getMetaData().getDatabaseMajorVersion();
      if (major < OLDEST) {
        throw new ServerException(
            "the server at " + login.where() + " is version " + major + "; 14 or newer is needed",
            null);
      }
      String identity = identity(connection);
      beginReading(connection);
      Catalog catalog = new Catalog(major);
      addresses(connection, login, catalog);
      Map<String, Database> found = new PrincipalReader(catalog).read(connection, name);
      for (String wanted : databases) {
        if (!found.containsKey(wanted)) {
          throw new ServerException(
              "the server at "
                  + login.where()
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
      return catalog
          .builder()
          .build(new Origin(name, kind(), version, now, identity), catalog.rules());
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of " + login.where() + " failed: " + broken.getMessage(), broken);
    }
  }

  /** Where it is reached: as this login does, and as it says itself. */
  private static void addresses(Connection connection, Login login, Catalog catalog)
      throws SQLException {
    Address.of(login.url()).reached(PORT).forEach(catalog.builder().abroad()::address);
    Sql.rows(
        connection,
        "select host(inet_server_addr()) || ':' || inet_server_port()",
        row -> {
          if (row.getString(1) != null) {
            catalog.builder().abroad().address(row.getString(1));
          }
        });
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
      readDatabase(open, database, login.keeper(), true, notes);
      return;
    }
    try (Connection connection = connect(login, name)) {
      beginReading(connection);
      readDatabase(connection, database, login.keeper(), false, notes);
    } catch (ServerException refused) {
      notes.accept(
          "database " + name + " was not looked into: " + login.user() + " cannot connect to it");
    }
  }

  private static void readDatabase(
      Connection connection, Database database, String keeper, boolean home, Consumer<String> notes)
      throws SQLException {
    new ObjectReader(database).read(connection);
    new AclReader(database.catalog()).read(connection, database);
    new ForeignReader(database).read(connection);
    new ViewReader(database).read(connection);
    new LineageReader(database).read(connection);
    new SightReader(database).read(connection, keeper, notes);
    new BesideReader(database).read(connection, home);
    database.catalog().builder().estate().unset(database.node(), NodeFact.UNREAD);
  }

  /** One unchanging picture of the catalog for all queries, and nothing can be written. */
  private static void beginReading(Connection connection) throws SQLException {
    connection.setAutoCommit(false);
    connection.setReadOnly(true);
    connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
  }
}
