package fiador.servers;

import fiador.changes.Step;
import fiador.servers.Dialect.Batch;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

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
          "could not lock " + login.url() + ": " + broken.getMessage(), broken);
    }
    close(connection);
    throw new ServerException(
        "somebody else is settling on " + login.url() + "; wait until that is over", null);
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
    for (Map.Entry<String, List<Step>> entry : byDatabase(steps).entrySet()) {
      carryOut(entry.getKey(), entry.getValue(), witness);
    }
  }

  /**
   * Steps by the database they have to be carried out in, in their order; those that concern the
   * whole server, under the empty name, join the database before them.
   */
  private static Map<String, List<Step>> byDatabase(List<Step> steps) {
    Map<String, List<Step>> found = new LinkedHashMap<>();
    found.put("", new ArrayList<>());
    List<Step> last = new ArrayList<>();
    for (Step step : steps) {
      boolean drops = step instanceof Step.DropRole || step instanceof Step.DropUser;
      String database = databaseOf(step);
      if (drops) {
        last.add(step);
      } else {
        found.computeIfAbsent(database, fresh -> new ArrayList<>()).add(step);
      }
    }
    // nobody can be dropped while another database still has grants to him
    found.put("\0", last);
    return found;
  }

  private static String databaseOf(Step step) {
    Step.On on = null;
    if (step instanceof Step.TakeOver over) {
      return databaseOf(over.taken());
    } else if (step instanceof Step.Grant grant) {
      on = grant.on();
    } else if (step instanceof Step.AddOption add) {
      on = add.on();
    } else if (step instanceof Step.Revoke revoke) {
      on = revoke.on();
    } else if (step instanceof Step.TakeOption take) {
      on = take.on();
    } else if (step instanceof Step.GrantLater later) {
      on = later.schema();
    } else if (step instanceof Step.RevokeLater later) {
      on = later.schema();
    } else if (step instanceof Step.ChangeOwner owner) {
      on = owner.on();
    } else if (step instanceof Step.FilterRows filter) {
      on = filter.table();
    } else if (step instanceof Step.ShowSafely show) {
      on = (show.after() == null ? show.before() : show.after()).view();
    } else if (step instanceof Step.Guard guard) {
      return guard.database() == null ? "" : guard.database();
    } else if (step instanceof Step.SetAttribute set) {
      return set.database() == null ? "" : set.database();
    } else if (step instanceof Step.DefineLookup define) {
      return define.database() == null ? "" : define.database();
    }
    return on == null || on.database() == null ? "" : on.database();
  }

  private void carryOut(String database, List<Step> steps, Witness witness) throws ServerException {
    if (steps.isEmpty()) {
      return;
    }
    Dialect dialect = server.dialect();
    String name = database.isEmpty() || database.equals("\0") ? null : database;
    try (Connection connection = server.connect(login, name)) {
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
          "the connection to " + login.url() + " broke: " + broken.getMessage(), broken);
    }
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
