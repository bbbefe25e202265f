package fiador.servers.mariadb;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.grants.Sights.Doubt;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.grants.rules.MariadbRules;
import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Times;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** MariaDB, 10.11 and newer. */
public final class MariadbServer implements Server {
  private static final int PORT = 3306;
  private static final int OLDEST_MAJOR = 10;
  private static final int OLDEST_MINOR = 11;
  static final int TABLE_DENIED = 1142;

  @Override
  public String kind() {
    return MariadbRules.KIND;
  }

  @Override
  public String urlPrefix() {
    return MariadbConnections.PREFIX;
  }

  @Override
  public Times times() {
    return Times.WITHOUT_ZONES;
  }

  @Override
  public Dialect dialect() {
    return new MariadbDialect();
  }

  @Override
  public Connection connect(Login login, String database) throws ServerException {
    return MariadbConnections.open(login);
  }

  @Override
  public String identityQuery() {
    return "select " + MariadbDialect.IDENTITY;
  }

  @Override
  public Optional<Doubt> guardDoubt(Connection connection, Login login) throws SQLException {
    return GuardCheck.of(connection, login.keeper(), true);
  }

  /** Nothing is written here that others' triggers could see. */
  @Override
  public List<String> hiddenCode(Connection connection, String schema, String name, boolean writing)
      throws SQLException {
    return HiddenCode.of(connection, schema, name);
  }

  @Override
  public Access survey(
      Login login, String name, List<String> databases, Instant now, Consumer<String> notes)
      throws ServerException {
    try (Connection connection = connect(login, null)) {
      int major = connection.getMetaData().getDatabaseMajorVersion();
      int minor = connection.getMetaData().getDatabaseMinorVersion();
      if (major < OLDEST_MAJOR || major == OLDEST_MAJOR && minor < OLDEST_MINOR) {
        throw new ServerException(
            "the server at "
                + login.where()
                + " is version "
                + major
                + "."
                + minor
                + "; 10.11 or newer is needed",
            null);
      }
      String version = major + "." + minor;
      HouseRules rules = KnownHouses.of(kind(), version);
      Catalog catalog = new Catalog(rules);
      catalog.estate().node(None.NODE, NodeKind.SERVER, name, None.PRINCIPAL);
      new AccountReader(catalog).read(connection);
      new ObjectReader(catalog, databases, login.keeper(), notes).read(connection);
      new ForeignReader(catalog).read(connection);
      Address.of(login.url()).reached(PORT).forEach(catalog.builder().abroad()::address);
      new GrantReader(catalog).read(connection);
      SeenAll.check(connection, catalog, notes);
      return catalog
          .builder()
          .build(new Origin(name, kind(), version, now, identity(connection)), rules);
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of "
              + login.where()
              + " failed: "
              + broken.getMessage()
              + (broken.getErrorCode() == TABLE_DENIED
                  ? "; the login needs select on the schema mysql"
                  : ""),
          broken);
    }
  }
}
