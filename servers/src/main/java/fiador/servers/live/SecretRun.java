package fiador.servers.live;

import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.SecretSql;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;

/** Changes the secrets of accounts that are there, one statement an account. */
public final class SecretRun {
  private final Server server;
  private final Login login;

  /** What becomes of the secrets an account has. */
  public enum Way {
    /** The new one takes their place. */
    REPLACES,
    /** The newest one goes on being good beside the new one. */
    KEEPS_NEWEST,
    /** There is no new one; only the newest one stays. */
    DROPS_OLDER
  }

  /** A run on that server. */
  public SecretRun(Server server, Login login) {
    this.server = server;
    this.login = login;
  }

  /**
   * Changes them. All are looked at before the first is changed.
   *
   * @param secrets asked once for each account, unless nothing is new; what it gives is wiped
   * @param done is told each account once its secret is changed
   * @throws ServerException when an account proves itself otherwise too, or the server refuses
   */
  public void change(
      List<String> accounts, Way way, SettleRun.Secrets secrets, Consumer<String> done)
      throws ServerException {
    SecretSql sql = server.dialect().secrets();
    if (way != Way.REPLACES && !sql.keepsTwo()) {
      throw new ServerException(
          server.kind() + " keeps one secret of an account, so none can stay beside a new one",
          null);
    }
    try (Connection connection = server.connect(login, null)) {
      for (String account : accounts) {
        lookAt(connection, sql, account);
      }
      for (String account : accounts) {
        change(connection, sql, account, way, secrets);
        done.accept(account);
      }
    } catch (SQLException broken) {
      // a driver's message may repeat a statement, and with it what is known of a secret
      throw new ServerException(
          login.where() + " refused: SQL state " + broken.getSQLState(), null);
    }
  }

  private static void lookAt(Connection connection, SecretSql sql, String account)
      throws ServerException, SQLException {
    List<String> others = sql.otherProofs(connection, account);
    if (!others.isEmpty()) {
      throw new ServerException(
          account
              + " also proves who it is by "
              + String.join(", ", others)
              + ", which a new secret would end; nothing was changed: alter it by hand",
          null);
    }
  }

  private static void change(
      Connection connection, SecretSql sql, String account, Way way, SettleRun.Secrets secrets)
      throws ServerException, SQLException {
    if (way == Way.DROPS_OLDER) {
      run(connection, sql.newestAlone(connection, account));
      return;
    }
    char[] secret = secrets.of(account);
    try {
      run(
          connection,
          way == Way.REPLACES
              ? sql.replacing(connection, account, secret)
              : sql.beside(connection, account, secret));
    } finally {
      Arrays.fill(secret, '\0');
    }
  }

  private static void run(Connection connection, String statement) throws SQLException {
    try (Statement run = connection.createStatement()) {
      run.execute(statement);
    }
  }
}
