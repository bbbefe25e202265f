package fiador.servers.mariadb;

import fiador.grants.Access;
import fiador.grants.HouseRules;
import fiador.grants.Origin;
import fiador.servers.Dialect;
import fiador.servers.Login;
import fiador.servers.Server;
import fiador.servers.ServerException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Properties;
import java.util.function.Consumer;
import org.mariadb.jdbc.Driver;

/** MariaDB, 10.11 and newer. */
public final class MariadbServer implements Server {
  private static final String PREFIX = "jdbc:mariadb:";
  private static final int OLDEST_MAJOR = 10;
  private static final int OLDEST_MINOR = 11;
  private static final int TABLE_DENIED = 1142;

  @Override
  public String kind() {
    return "mariadb";
  }

  @Override
  public String urlPrefix() {
    return PREFIX;
  }

  @Override
  public Dialect dialect() {
    return new MariadbDialect();
  }

  @Override
  public Connection connect(Login login, String database) throws ServerException {
    Properties settings = new Properties();
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    settings.setProperty("connectTimeout", "15000");
    try {
      Connection connection = new Driver().connect(login.url(), settings);
      if (connection == null) {
        throw new ServerException(
            "the address "
                + login.url()
                + " is not a MariaDB one; expected jdbc:mariadb://HOST:PORT/",
            null);
      }
      return connection;
    } catch (SQLException refused) {
      throw explained(login, refused);
    }
  }

  private static ServerException explained(Login login, SQLException refused) {
    String state = refused.getSQLState() == null ? "" : refused.getSQLState();
    String what;
    if (state.startsWith("28")) {
      what = "refused the login " + login.user() + "; check the name and the password";
    } else if (state.startsWith("08")) {
      what = "cannot be reached; is it running, and is the address right?";
    } else {
      what = "refused the connection";
    }
    return new ServerException(
        "the server at " + login.url() + " " + what + " (" + refused.getMessage() + ")", refused);
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
                + login.url()
                + " is version "
                + major
                + "."
                + minor
                + "; 10.11 or newer is needed",
            null);
      }
      String version = major + "." + minor;
      HouseRules rules = HouseRules.of(kind(), version);
      Catalog catalog = new Catalog(rules);
      catalog.estate().node(-1, fiador.estate.NodeKind.SERVER, name, -1);
      new AccountReader(catalog).read(connection);
      new ObjectReader(catalog, databases, notes).read(connection);
      new GrantReader(catalog).read(connection);
      return catalog.builder().build(new Origin(name, kind(), version, now), rules);
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of "
              + login.url()
              + " failed: "
              + broken.getMessage()
              + (broken.getErrorCode() == TABLE_DENIED
                  ? "; the login needs select on the schema mysql"
                  : ""),
          broken);
    }
  }
}
