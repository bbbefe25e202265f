package fiador.servers;

import fiador.changes.Step;
import fiador.changes.Transactions;
import fiador.grants.Sights.Doubt;
import fiador.servers.Dialect.Batch;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Carries steps out on a server: all or nothing in each database where the server can. */
public final class SettleRun {
  private final Server server;
  private final Login login;
  private final Secrets secrets;

  /** Where the secrets of new users come from. */
  @FunctionalInterface
  public interface Secrets {
    /** The secret of a user; the caller wipes it. */
    char[] of(String user) throws ServerException;
  }

  /** Is told what happens. */
  public interface Witness {
    /** Steps are about to be carried out in one statement. */
    void begins(List<Step> steps);

    /** They were; where the server can roll back, only a later commit makes them last. */
    void done(List<Step> steps, String sql);
  }

  /** A lock on a server; closing it lets others settle. */
  public interface Lock extends AutoCloseable {
    @Override
    void close();
  }

  /** A run on that server. */
  public SettleRun(Server server, Login login, Secrets secrets) {
    this.server = server;
    this.login = login;
    this.secrets = secrets;
  }

  /**
   * Keeps others from settling on the server at the same time, where it has a way to.
   *
   * @throws ServerException when somebody else holds the lock
   */
  public Lock lock() throws ServerException {
    String query = server.dialect().lock();
    if (query == null) {
      return () -> {};
    }
    Connection connection = server.connect(login, null);
    try (Statement statement = connection.createStatement();
        ResultSet answer = statement.executeQuery(query)) {
      if (answer.next() && answer.getBoolean(1)) {
        return () -> close(connection);
      }
    } catch (SQLException broken) {
      close(connection);
      throw new ServerException(
          "could not lock " + login.where() + ": " + broken.getMessage(), broken);
    }
    close(connection);
    throw new ServerException(
        "somebody else is settling on " + login.where() + "; wait until that is over", null);
  }

  private static void close(Connection connection) {
    try {
      connection.close();
    } catch (SQLException ignored) {
      // the server lets go of the lock with the connection, however that ends
    }
  }

  /**
   * Carries the steps out.
   *
   * @throws ServerException at the first statement that fails; where the server can, nothing of
   *     that database is left behind
   */
  public void carryOut(List<Step> steps, Witness witness) throws ServerException {
    for (Transactions.Part part : Transactions.of(steps)) {
      carryOut(part.database(), part.steps(), witness);
    }
  }

  private void carryOut(String database, List<Step> steps, Witness witness) throws ServerException {
    if (steps.isEmpty()) {
      return;
    }
    Dialect dialect = server.dialect();
    try (Connection connection = server.connect(login, database)) {
      believe(connection, steps);
      connection.setAutoCommit(!dialect.transactional());
      for (Batch batch : dialect.batches(steps)) {
        witness.begins(batch.steps());
        run(connection, dialect, batch);
        witness.done(batch.steps(), batch.sql());
      }
      if (dialect.transactional()) {
        connection.commit();
      }
    } catch (SQLException broken) {
      throw new ServerException(
          "the connection to " + login.where() + " broke: " + broken.getMessage(), broken);
    }
  }

  /** Whoever made the guarded schema decides what everybody sees, so it is looked at once more. */
  private void believe(Connection connection, List<Step> steps)
      throws ServerException, SQLException {
    if (steps.stream().noneMatch(SettleRun::restsOnGuard)) {
      return;
    }
    Optional<Doubt> doubt = server.guardDoubt(connection, login);
    if (doubt.isPresent()) {
      throw new ServerException(
          "the schema fiador_guard is not Fiador's own, and nothing was changed: "
              + String.join("; ", doubt.get().why()),
          null);
    }
  }

  private static boolean restsOnGuard(Step step) {
    return step instanceof Step.Guard
        || step instanceof Step.SetAttribute
        || step instanceof Step.DefineLookup
        || step instanceof Step.ShowSafely
        || step instanceof Step.FilterRows;
  }

  private void run(Connection connection, Dialect dialect, Batch batch) throws ServerException {
    boolean creates = batch.steps().get(0) instanceof Step.CreateUser;
    try (Statement statement = connection.createStatement()) {
      if (batch.steps().get(0) instanceof Step.CreateUser user) {
        char[] secret = secrets.of(user.user());
        try {
          statement.execute(dialect.createUser(user.user(), secret));
        } finally {
          Arrays.fill(secret, '\0');
        }
      } else {
        for (String sql : batch.statements()) {
          statement.execute(sql);
        }
      }
    } catch (SQLException refused) {
      // the driver's message may repeat the statement, and with it a secret
      String why = creates ? "SQL state " + refused.getSQLState() : refused.getMessage();
      throw new ServerException(
          "the server refused: "
              + batch.sql()
              + "\n  "
              + why
              + (dialect.transactional() ? "\n  nothing of this database's part was changed" : ""),
          creates ? null : refused);
    }
  }
}
