package fiador.servers.live;

import fiador.effects.Switch;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/**
 * Asks a server, as a user, whether a statement would be allowed. Nothing is carried out: the
 * server only checks rights, in a transaction that it holds read-only itself. Where even that would
 * run what others made, or where the server answers something else than yes or no, nothing is
 * claimed.
 */
public final class Trial {
  private final Server server;
  private final Login login;
  private final Tree tree;

  /** On that server, with the things of that survey. */
  public Trial(Server server, Login login, Tree tree) {
    this.server = server;
    this.login = login;
    this.tree = tree;
  }

  /** What came of it. */
  public enum Answer {
    ALLOWED,
    REFUSED,
    NOT_TRIED
  }

  /**
   * What the server said.
   *
   * @param why why it was not tried; else empty
   */
  public record Outcome(Answer answer, String why) {
    private static Outcome notTried(String why) {
      return new Outcome(Answer.NOT_TRIED, why);
    }
  }

  /**
   * Tries. A line that breaks, a time that is up and whatever else is no answer are not tried.
   *
   * @param user the user's name as the server stores it
   * @param column an ordinal, or -1 for the whole
   * @param first the switch that comes first; null for none
   */
  public Outcome attempt(String user, Privilege privilege, int node, int column, Switch first) {
    Dialect dialect = server.dialect();
    String become = dialect.become(user);
    if (become == null || !dialect.asksRights()) {
      return Outcome.notTried("nobody can act as somebody else on this server");
    }
    String statement = statement(dialect, privilege, node, column);
    if (statement == null) {
      return Outcome.notTried("there is no harmless statement for it");
    }
    int database = tree.enclosing(node, NodeKind.DATABASE);
    try (Connection connection = server.connect(login, database < 0 ? null : tree.name(database));
        Statement sql = connection.createStatement()) {
      dialect.beginAsking(connection);
      try {
        String schema = tree.name(tree.parent(node));
        boolean writing = privilege != Privilege.SELECT;
        List<String> code = server.hiddenCode(connection, schema, tree.name(node), writing);
        if (!code.isEmpty()) {
          return Outcome.notTried(code.get(0));
        }
        sql.execute(become);
        if (first != null) {
          sql.execute(dialect.sql(first));
        }
        return asked(dialect, connection, statement, first == null ? "" : "after " + first);
      } finally {
        connection.rollback();
      }
    } catch (ServerException | SQLException broken) {
      return Outcome.notTried(login.without(broken.getMessage()));
    }
  }

  private static Outcome asked(
      Dialect dialect, Connection connection, String statement, String how) {
    try {
      dialect.checkRights(connection, statement);
      return new Outcome(Answer.ALLOWED, how);
    } catch (SQLException said) {
      return dialect.isRefusal(said)
          ? new Outcome(Answer.REFUSED, how)
          : Outcome.notTried("the server said: " + said.getMessage());
    }
  }

  private String statement(Dialect dialect, Privilege privilege, int node, int column) {
    NodeKind kind = tree.kind(node);
    if (kind != NodeKind.TABLE && kind != NodeKind.VIEW && kind != NodeKind.MATERIALIZED_VIEW) {
      return null;
    }
    String table = dialect.table(tree, node);
    String one =
        tree.columns(node) == 0 ? null : dialect.quoted(tree.column(node, Math.max(0, column)));
    return switch (privilege) {
      case SELECT -> "SELECT " + (column < 0 ? "*" : one) + " FROM " + table + " WHERE 1 = 0";
      case INSERT ->
          one == null || column < 0
              ? null
              : "INSERT INTO " + table + " (" + one + ") VALUES (NULL)";
      case UPDATE -> one == null ? null : "UPDATE " + table + " SET " + one + " = NULL WHERE 1 = 0";
      case DELETE -> "DELETE FROM " + table + " WHERE 1 = 0";
      default -> null;
    };
  }
}
