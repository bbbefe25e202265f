package fiador.servers.hsqldb;

import fiador.grants.Access;
import fiador.grants.HouseRules;
import fiador.grants.Origin;
import fiador.servers.Dialect;
import fiador.servers.Login;
import fiador.servers.Server;
import fiador.servers.ServerException;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Properties;
import java.util.function.Consumer;
import org.hsqldb.jdbc.JDBCDriver;

/** HSQLDB 2.7, embedded or behind its own server. */
public final class HsqldbServer implements Server {
  private static final int NO_SUCH_DATABASE = -465;

  @Override
  public String kind() {
    return "hsqldb";
  }

  @Override
  public String urlPrefix() {
    return "jdbc:hsqldb:";
  }

  @Override
  public Dialect dialect() {
    return new HsqldbDialect();
  }

  @Override
  public Connection connect(Login login, String database) throws ServerException {
    // without this the engine writes its own log to the terminal and sets up java.util.logging
    System.setProperty("hsqldb.reconfig_logging", "false");
    Properties settings = new Properties();
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    try {
      return JDBCDriver.getConnection(login.url(), settings);
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
    } else if (refused.getErrorCode() == NO_SUCH_DATABASE) {
      what = "does not exist";
    } else if (state.equals("HY000") || state.startsWith("S1")) {
      what = "could not be opened; is another program using its files?";
    } else {
      what = "refused the connection";
    }
    return new ServerException(
        "the database " + login.url() + " " + what + " (" + refused.getMessage() + ")", refused);
  }

  @Override
  public Access survey(
      Login login, String name, List<String> databases, Instant now, Consumer<String> notes)
      throws ServerException {
    try (Connection connection = connect(login, null)) {
      if (!connection.getMetaData().getDatabaseProductVersion().startsWith("2.7")) {
        notes.accept("this is not HSQLDB 2.7, for which the house rules were checked");
      }
      HsqldbSurveyor surveyor = new HsqldbSurveyor();
      List<GrantScript.Statement> grants = surveyor.read(connection, name);
      GrantOptions options = new GrantOptions();
      options.ask(connection);
      for (String user : surveyor.witnesses(grants)) {
        try (Connection session = connect(login, null);
            Statement statement = session.createStatement()) {
          statement.execute("SET SESSION AUTHORIZATION '" + user.replace("'", "''") + "'");
          options.ask(session);
        }
      }
      surveyor.addGrants(grants, options);
      String version = connection.getMetaData().getDatabaseProductVersion();
      return surveyor.builder().build(new Origin(name, kind(), version, now), HouseRules.hsqldb());
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of "
              + login.url()
              + " failed: "
              + broken.getMessage()
              + (broken.getErrorCode() == -5501 ? "; the login must be an administrator" : ""),
          broken);
    }
  }
}
