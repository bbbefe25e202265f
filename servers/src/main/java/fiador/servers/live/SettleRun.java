package fiador.servers.live;

import fiador.changes.ordering.Transactions;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.Step;
import fiador.grants.Sights.Doubt;
import fiador.servers.jdbc.Cancelled;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.OutcomeUnknownException;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Dialect.Batch;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Carries steps out on a server: all or nothing in each database where the server can. */
public final class SettleRun {
  private static final int ATTEMPTS = 4;
  private static final int LOCK_CHECK_SECONDS = 10;

  private final Server server;
  private final Login login;
  private final Secrets secrets;
  private Lock lock;

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

    /** Somebody holds what a statement needs; all of its part is tried again. */
    default void waits(String sql) {}

    /** They were; where the server can roll back, only a later commit makes them last. */
    void done(List<Step> steps, String sql);

    /** So many steps last from now on. */
    default void lasts(int steps) {}
  }

  /** A lock on a server; closing it lets others settle. */
  public interface Lock extends AutoCloseable {
    /** Whether it is still held: the server lets go of it when the connection is cut. */
    boolean isHeld();

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
   * Keeps others from settling on the server at the same time, where it has a way to. One that a
   * killed run has left is waited for: the server lets go of it when it notices.
   *
   * @throws ServerException when somebody else holds the lock, with who that is
   */
  public Lock lock() throws ServerException {
    String holder = null;
    for (int attempt = 0; attempt < ATTEMPTS; attempt++) {
      Connection connection = server.connect(login, null);
      try {
        holder = server.dialect().lock(connection);
        if (holder == null) {
          lock = held(connection);
          return lock;
        }
      } catch (SQLException broken) {
        close(connection);
        throw new ServerException(
            "could not lock " + login.where() + ": " + broken.getMessage(), broken);
      }
      close(connection);
    }
    throw new ServerException(
        "somebody else is settling on "
            + login.where()
            + ": "
            + holder
            + "; wait until that is over",
        null);
  }

  private static Lock held(Connection connection) {
    return new Lock() {
      @Override
      public boolean isHeld() {
        try {
          return connection.isValid(LOCK_CHECK_SECONDS);
        } catch (SQLException broken) {
          return false;
        }
      }

      @Override
      public void close() {
        SettleRun.close(connection);
      }
    };
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
    for (int attempt = 1; ; attempt++) {
      try (Connection connection = server.connect(login, database)) {
        believe(connection, steps);
        connection.setAutoCommit(!dialect.transactional());
        for (Batch batch : dialect.batches(steps)) {
          stillLocked();
          witness.begins(batch.steps());
          run(connection, dialect, batch);
          witness.done(batch.steps(), batch.sql());
          if (!dialect.transactional()) {
            witness.lasts(batch.steps().size());
          }
        }
        if (dialect.transactional()) {
          commit(connection);
          witness.lasts(steps.size());
        }
        return;
      } catch (Waited inTheWay) {
        if (attempt == ATTEMPTS) {
          throw refused(dialect, inTheWay.batch(), inTheWay.cause());
        }
        witness.waits(inTheWay.batch().sql());
      } catch (SQLException broken) {
        throw new ServerException(
            "the connection to " + login.where() + " broke: " + broken.getMessage(), broken);
      }
    }
  }

  private void commit(Connection connection) throws OutcomeUnknownException {
    try {
      connection.commit();
    } catch (SQLException broken) {
      throw unknown(broken);
    }
  }

  private OutcomeUnknownException unknown(SQLException broken) {
    return new OutcomeUnknownException(
        "the connection to "
            + login.where()
            + " broke while something was carried out: "
            + broken.getMessage(),
        broken);
  }

  /**
   * Somebody holds what a statement needs; where the server can, all of its part is tried again.
   */
  private static final class Waited extends Exception {
    private static final long serialVersionUID = 1L;
    private final transient Batch batch;
    private final SQLException cause;

    Waited(Batch batch, SQLException cause) {
      super(cause);
      this.batch = batch;
      this.cause = cause;
    }

    Batch batch() {
      return batch;
    }

    SQLException cause() {
      return cause;
    }
  }

  private void stillLocked() throws ServerException {
    if (lock != null && !lock.isHeld()) {
      throw new ServerException(
          "the lock on " + login.where() + " was lost, so somebody else may be settling there now",
          null);
    }
  }

  /** Whoever made the guarded schema decides what everybody sees, so it is looked at once more. */
  private void believe(Connection connection, List<Step> steps)
      throws ServerException, SQLException {
    if (steps.stream().noneMatch(SightStep.class::isInstance)) {
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

  private void run(Connection connection, Dialect dialect, Batch batch)
      throws ServerException, Waited {
    for (int attempt = 1; ; attempt++) {
      try (Statement statement = connection.createStatement()) {
        Runnable over = Cancelled.whenStopped(statement);
        try {
          carryOut(connection, statement, dialect, batch);
        } finally {
          over.run();
        }
        return;
      } catch (SQLException refused) {
        if (isBroken(refused) && !dialect.transactional()) {
          throw unknown(refused);
        } else if (!dialect.isLockTimeout(refused)) {
          throw refused(dialect, batch, refused);
        } else if (dialect.transactional()) {
          throw new Waited(batch, refused);
        } else if (attempt == ATTEMPTS) {
          throw refused(dialect, batch, refused);
        }
      }
    }
  }

  private static boolean isBroken(SQLException refused) {
    return refused.getSQLState() != null && refused.getSQLState().startsWith("08");
  }

  private void carryOut(Connection connection, Statement statement, Dialect dialect, Batch batch)
      throws ServerException, SQLException {
    if (batch.steps().get(0) instanceof CreateUser user) {
      create(connection, statement, dialect, user.user());
      return;
    }
    for (String sql : batch.statements()) {
      statement.execute(sql);
    }
  }

  private void create(Connection connection, Statement statement, Dialect dialect, String user)
      throws ServerException, SQLException {
    char[] secret = secrets.of(user);
    try {
      for (String sql : dialect.createUser(connection, user, secret)) {
        statement.execute(sql);
      }
    } finally {
      Arrays.fill(secret, '\0');
    }
  }

  private static ServerException refused(Dialect dialect, Batch batch, SQLException refused) {
    // the driver's message may repeat the statement, and with it what is known of a secret
    boolean creates = batch.steps().get(0) instanceof CreateUser;
    String why = creates ? "SQL state " + refused.getSQLState() : refused.getMessage();
    return new ServerException(
        (dialect.isLockTimeout(refused)
                ? "somebody holds what this needs, and has not let go of it: "
                : "the server refused: ")
            + batch.sql()
            + "\n  "
            + why
            + (dialect.transactional() ? "\n  nothing of this database's part was changed" : ""),
        creates ? null : refused);
  }
}
