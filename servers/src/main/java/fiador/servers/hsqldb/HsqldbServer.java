package fiador.servers.hsqldb;

import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.grants.Sights.Doubt;
import fiador.grants.rules.HsqldbRules;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** HSQLDB 2.7, embedded or behind its own server. */
public final class HsqldbServer implements Server {
  @Override
  public String kind() {
    return HsqldbRules.KIND;
  }

  @Override
  public String urlPrefix() {
    return HsqldbConnections.PREFIX;
  }

  @Override
  public Dialect dialect() {
    return new HsqldbDialect();
  }

  @Override
  public Connection connect(Login login, String database) throws ServerException {
    return HsqldbConnections.open(login);
  }

  @Override
  public String identityQuery() {
    return "values (database_name())";
  }

  @Override
  public Optional<Doubt> guardDoubt(Connection connection, Login login) throws SQLException {
    return GuardCheck.of(connection);
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
      if (!connection.getMetaData().getDatabaseProductVersion().startsWith("2.7")) {
        notes.accept("this is not HSQLDB 2.7, for which the house rules were checked");
      }
      HsqldbSurveyor surveyor = new HsqldbSurveyor();
      List<GrantScript.Statement> grants = surveyor.read(connection, name, notes);
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
      return surveyor
          .builder()
          .build(new Origin(name, kind(), version, now, identity(connection)), HsqldbRules.rules());
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of "
              + login.where()
              + " failed: "
              + broken.getMessage()
              + (broken.getErrorCode() == -5501 ? "; the login must be an administrator" : ""),
          broken);
    }
  }
}
