package fiador.servers.postgresql;

import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Transport.Tls;
import fiador.servers.jdbc.Unreachable;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Properties;
import java.util.Set;
import org.postgresql.Driver;
import org.postgresql.PGProperty;
import org.postgresql.ssl.DefaultJavaSSLFactory;

/**
 * Opens connections on which nothing that a database, a role or a user of it may set has a say.
 * Settings that come with the start of a session win over those of databases and roles (manual,
 * "Setting Parameters").
 */
final class PostgresqlConnections {
  static final String PREFIX = "jdbc:postgresql:";

  private static final Set<String> PARAMETERS =
      Set.of(
          "ssl",
          "sslmode",
          "sslrootcert",
          "sslcert",
          "sslkey",
          "targetservertype",
          "tcpkeepalive",
          "gssencmode",
          "channelbinding",
          "applicationname",
          "preparethreshold",
          "connecttimeout",
          "logintimeout",
          "sockettimeout");

  /**
   * With an empty path a name without a schema is one of the server's own, operators too; what else
   * is here would let others load code, hide rows, act as a role of theirs or change what the
   * catalog's functions write.
   */
  private static final String SETTINGS =
      "-c search_path= -c role=none -c local_preload_libraries= -c row_security=on"
          + " -c default_transaction_isolation=read\\ committed -c default_transaction_read_only=off"
          + " -c default_transaction_deferrable=off -c jit=off -c max_parallel_workers_per_gather=0"
          + " -c standard_conforming_strings=on -c quote_all_identifiers=off"
          + " -c transform_null_equals=off -c array_nulls=on -c bytea_output=hex"
          + " -c default_tablespace= -c temp_tablespaces= -c default_table_access_method=heap"
          + " -c check_function_bodies=on -c constraint_exclusion=partition"
          + " -c idle_in_transaction_session_timeout=0";

  /** Only some logins may set this one, and those are the ones for whom it matters. */
  private static final String NO_LIBRARIES = " -c session_preload_libraries=";

  private static final String NOT_ALLOWED = "42501";

  private PostgresqlConnections() {}

  static Connection open(Login login, String database) throws ServerException {
    Address address = Address.of(login.url());
    address.check(PARAMETERS);
    Properties settings = Driver.parseURL(login.url(), new Properties());
    if (settings == null) {
      throw new ServerException(
          "the address "
              + login.where()
              + " is not a PostgreSQL one; expected jdbc:postgresql://HOST:PORT/DATABASE",
          null);
    }
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    settings.setProperty(PGProperty.APPLICATION_NAME.getName(), "fiador");
    String patience = String.valueOf(login.transport().connectSeconds());
    settings.setProperty(PGProperty.LOGIN_TIMEOUT.getName(), patience);
    settings.setProperty(PGProperty.CONNECT_TIMEOUT.getName(), patience);
    settings.setProperty(
        PGProperty.SOCKET_TIMEOUT.getName(), String.valueOf(login.transport().socketSeconds()));
    if (database != null) {
      settings.setProperty(PGProperty.PG_DBNAME.getName(), database);
    }
    protect(login, address, settings);
    return open(login, database, settings);
  }

  private static Connection open(Login login, String database, Properties settings)
      throws ServerException {
    String always =
        SETTINGS
            + " -c statement_timeout="
            + login.transport().statementSeconds()
            + "s -c lock_timeout="
            + login.transport().lockSeconds()
            + "s";
    try {
      settings.setProperty(PGProperty.OPTIONS.getName(), always + NO_LIBRARIES);
      return connected(settings);
    } catch (SQLException refused) {
      boolean setting =
          NOT_ALLOWED.equals(refused.getSQLState())
              && refused.getMessage().contains("session_preload_libraries");
      if (!setting) {
        throw explained(login, database, refused);
      }
    }
    try {
      settings.setProperty(PGProperty.OPTIONS.getName(), always);
      return connected(settings);
    } catch (SQLException refused) {
      throw explained(login, database, refused);
    }
  }

  private static Connection connected(Properties settings) throws SQLException {
    return new Driver().connect(PREFIX + "//", settings);
  }

  private static void protect(Login login, Address address, Properties settings) {
    if (address.says("sslmode", "ssl")) {
      return;
    }
    Tls tls = login.transport().towards(address.isLocal());
    String mode =
        switch (tls) {
          case UNSAID -> "prefer";
          case VERIFY_FULL -> "verify-full";
          case VERIFY_CA -> "verify-ca";
          case UNVERIFIED -> "require";
          case OFF -> "disable";
        };
    settings.setProperty(PGProperty.SSL_MODE.getName(), mode);
    boolean checked = tls == Tls.VERIFY_FULL || tls == Tls.VERIFY_CA;
    if (!login.transport().authority().isEmpty()) {
      settings.setProperty(PGProperty.SSL_ROOT_CERT.getName(), login.transport().authority());
    } else if (checked && !address.says("sslrootcert")) {
      settings.setProperty(PGProperty.SSL_FACTORY.getName(), DefaultJavaSSLFactory.class.getName());
    }
  }

  private static ServerException explained(Login login, String database, SQLException refused) {
    String state = refused.getSQLState() == null ? "" : refused.getSQLState();
    String where = login.where() + (database == null ? "" : ", database " + database);
    String what =
        switch (state) {
          case "28P01", "28000" -> Unreachable.refused(login);
          case "3D000" -> "has no such database";
          case "42501" -> "does not let " + login.user() + " connect to that database";
          case "08001", "08006", "08004" -> Unreachable.why(login, refused);
          default -> "refused the connection";
        };
    String said = login.without(refused.getMessage());
    return new ServerException("the server at " + where + " " + what + " (" + said + ")", refused);
  }
}
