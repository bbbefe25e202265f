package fiador.servers;

import fiador.changes.Step;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

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

  /** A run on that server. */
  public SettleRun(Server server, Login login, Secrets secrets) {
    this.server = server;
    this.login = login;
    this.secrets = secrets;
  }

  /**
   * Carries the steps out.
   *
   * @param done told of each statement after it was carried out, with secrets hidden
   * @throws ServerException at the first statement that fails; where the server can, nothing of
   *     that database is left behind
   */
  public void carryOut(List<Step> steps, Consumer<String> done) throws ServerException {
    for (Map.Entry<String, List<Step>> entry : byDatabase(steps).entrySet()) {
      carryOut(entry.getKey(), entry.getValue(), done);
    }
  }

  /** Steps that concern the whole server first, under the empty name. */
  private static Map<String, List<Step>> byDatabase(List<Step> steps) {
    Map<String, List<Step>> found = new LinkedHashMap<>();
    found.put("", new ArrayList<>());
    for (Step step : steps) {
      String database = "";
      if (step instanceof Step.Grant grant && grant.on().database() != null) {
        database = grant.on().database();
      } else if (step instanceof Step.GrantLater later && later.schema().database() != null) {
        database = later.schema().database();
      }
      found.computeIfAbsent(database, fresh -> new ArrayList<>()).add(step);
    }
    return found;
  }

  private void carryOut(String database, List<Step> steps, Consumer<String> done)
      throws ServerException {
    if (steps.isEmpty()) {
      return;
    }
    Dialect dialect = server.dialect();
    try (Connection connection = server.connect(login, database.isEmpty() ? null : database)) {
      connection.setAutoCommit(!dialect.transactional());
      for (Step step : steps) {
        run(connection, dialect, step);
        done.accept(dialect.sql(step));
      }
      if (dialect.transactional()) {
        connection.commit();
      }
    } catch (SQLException broken) {
      throw new ServerException(
          "the connection to " + login.url() + " broke: " + broken.getMessage(), broken);
    }
  }

  private void run(Connection connection, Dialect dialect, Step step) throws ServerException {
    try (Statement statement = connection.createStatement()) {
      if (step instanceof Step.CreateUser user) {
        char[] secret = secrets.of(user.user());
        try {
          statement.execute(dialect.createUser(user.user(), secret));
        } finally {
          java.util.Arrays.fill(secret, '\0');
        }
      } else {
        statement.execute(dialect.sql(step));
      }
    } catch (SQLException refused) {
      // the driver's message may repeat the statement, and with it a secret
      String why =
          step instanceof Step.CreateUser
              ? "SQL state " + refused.getSQLState()
              : refused.getMessage();
      throw new ServerException(
          "the server refused: "
              + dialect.sql(step)
              + "\n  "
              + why
              + (dialect.transactional() ? "\n  nothing of this database's part was changed" : ""),
          step instanceof Step.CreateUser ? null : refused);
    }
  }
}
