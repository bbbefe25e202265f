package fiador.servers.hsqldb;

import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Transport.Tls;
import fiador.servers.jdbc.Unreachable;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Properties;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.hsqldb.jdbc.JDBCDriver;

/** Opens databases, embedded or behind their own server. */
final class HsqldbConnections {
  static final String PREFIX = "jdbc:hsqldb:";

  private static final Set<String> PARAMETERS =
      Set.of(
          "ifexists",
          "create",
          "readonly",
          "files_readonly",
          "shutdown",
          "get_column_name",
          "hsqldb.lock_file",
          "hsqldb.log_data",
          "hsqldb.write_delay",
          "hsqldb.tx",
          "hsqldb.tx_level",
          "hsqldb.default_table_type",
          "hsqldb.sqllog",
          "hsqldb.applog");

  private static final int NO_SUCH_DATABASE = -465;

  private HsqldbConnections() {}

  static Connection open(Login login) throws ServerException {
    // without this the engine writes its own log to the terminal and sets up java.util.logging
    System.setProperty("hsqldb.reconfig_logging", "false");
    Address address = Address.of(login.url());
    address.check(PARAMETERS);
    protect(login, address);
    Properties settings = new Properties();
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    try {
      return address.isRemoteCall()
          ? waitedFor(login, settings)
          : JDBCDriver.getConnection(login.url(), settings);
    } catch (SQLException refused) {
      throw explained(login, refused);
    }
  }

  private static void protect(Login login, Address address) throws ServerException {
    boolean encrypted = login.url().startsWith(PREFIX + "hsqls:");
    Tls tls = login.transport().towards(address.isLocal());
    if (address.isRemoteCall() && !encrypted && tls != Tls.UNSAID && tls != Tls.OFF) {
      throw new ServerException(
          "the connection to "
              + login.where()
              + " would not be encrypted, and the secret would go over the line; use"
              + " jdbc:hsqldb:hsqls://, or say tls: off if that is accepted",
          null);
    }
  }

  /** The driver waits for ever on a line that is dead, so somebody else waits with it. */
  private static Connection waitedFor(Login login, Properties settings)
      throws ServerException, SQLException {
    FutureTask<Connection> task =
        new FutureTask<>(() -> JDBCDriver.getConnection(login.url(), settings));
    Thread thread = new Thread(task, "connecting");
    thread.setDaemon(true);
    thread.start();
    int seconds = login.transport().connectSeconds();
    try {
      Connection connection = task.get(seconds, TimeUnit.SECONDS);
      return PatientLine.of(connection, login.where(), login.transport().socketSeconds());
    } catch (ExecutionException failed) {
      if (failed.getCause() instanceof SQLException refused) {
        throw refused;
      }
      throw new ServerException("connecting to " + login.where() + " failed", failed.getCause());
    } catch (TimeoutException late) {
      throw new ServerException(
          "the server at " + login.where() + " did not answer within " + seconds + " s", late);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new ServerException("connecting to " + login.where() + " was interrupted", stopped);
    }
  }

  private static ServerException explained(Login login, SQLException refused) {
    String state = refused.getSQLState() == null ? "" : refused.getSQLState();
    String what;
    if (state.startsWith("28")) {
      what = Unreachable.refused(login);
    } else if (state.startsWith("08")) {
      what = Unreachable.why(login, refused);
    } else if (refused.getErrorCode() == NO_SUCH_DATABASE) {
      what = "does not exist";
    } else if (state.equals("HY000") || state.startsWith("S1")) {
      what = "could not be opened; is another program using its files?";
    } else {
      what = "refused the connection";
    }
    String said = login.without(refused.getMessage());
    return new ServerException(
        "the database " + login.where() + " " + what + " (" + said + ")", refused);
  }
}
