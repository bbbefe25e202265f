package fiador.servers.mariadb;

import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Transport;
import fiador.servers.jdbc.Transport.Tls;
import fiador.servers.jdbc.Unreachable;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Properties;
import java.util.Set;
import org.mariadb.jdbc.Driver;

/** Opens connections whose settings are our own, whatever the server's are. */
final class MariadbConnections {
  static final String PREFIX = "jdbc:mariadb:";

  private static final Set<String> PARAMETERS =
      Set.of(
          "sslmode", "usessl", "serversslcert", "connecttimeout", "sockettimeout", "tcpkeepalive");

  /** What changes the meaning of quotes, backslashes and operators, or cuts answers short. */
  private static final String SETTINGS =
      "sql_mode='STRICT_TRANS_TABLES,NO_ENGINE_SUBSTITUTION',sql_select_limit=18446744073709551615,"
          + "sql_auto_is_null=0,foreign_key_checks=1,max_statement_time=%d,lock_wait_timeout=%d,"
          + "innodb_lock_wait_timeout=%d";

  private static final int MILLIS = 1000;

  private MariadbConnections() {}

  static Connection open(Login login) throws ServerException {
    Address address = Address.of(login.url());
    address.check(PARAMETERS);
    Transport transport = login.transport();
    Properties settings = new Properties();
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    settings.setProperty("connectTimeout", String.valueOf(transport.connectSeconds() * MILLIS));
    settings.setProperty("socketTimeout", String.valueOf(transport.socketSeconds() * MILLIS));
    // else a server could ask for any file of this machine
    settings.setProperty("allowLocalInfile", "false");
    settings.setProperty("allowMultiQueries", "false");
    settings.setProperty(
        "sessionVariables",
        SETTINGS.formatted(
            transport.statementSeconds(), transport.lockSeconds(), transport.lockSeconds()));
    if (!address.says("sslmode", "usessl")) {
      protect(transport, address, settings);
    }
    try {
      Connection connection = new Driver().connect(login.url(), settings);
      if (connection == null) {
        throw new ServerException(
            "the address "
                + login.where()
                + " is not a MariaDB one; expected jdbc:mariadb://HOST:PORT/",
            null);
      }
      return connection;
    } catch (SQLException refused) {
      throw explained(login, refused);
    }
  }

  private static void protect(Transport transport, Address address, Properties settings) {
    Tls tls = transport.towards(address.isLocal());
    if (tls != Tls.UNSAID) {
      String mode =
          switch (tls) {
            case VERIFY_CA -> "verify-ca";
            case UNVERIFIED -> "trust";
            case OFF -> "disable";
            default -> "verify-full";
          };
      settings.setProperty("sslMode", mode);
    }
    if (!transport.authority().isEmpty()) {
      settings.setProperty("serverSslCert", transport.authority());
    }
  }

  private static ServerException explained(Login login, SQLException refused) {
    String state = refused.getSQLState() == null ? "" : refused.getSQLState();
    String said = String.valueOf(login.without(refused.getMessage()));
    String what;
    if (state.startsWith("28")) {
      what = Unreachable.refused(login);
    } else if (state.startsWith("08")) {
      what = Unreachable.why(login, refused);
    } else {
      what = "refused the connection";
    }
    return new ServerException(
        "the server at " + login.where() + " " + what + " (" + said + ")", refused);
  }
}
