package fiador.servers;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Tries something as a user on the server itself, in a transaction that is rolled back. Statements
 * touch no row; that the server then has another objection than missing rights does not count.
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
    /** There is no harmless statement for it, or no way to act as that user. */
    NOT_TRIED
  }

  /**
   * Tries.
   *
   * @param user the user's name as the server stores it
   * @param column an ordinal, or -1 for the whole
   */
  public Answer attempt(String user, Privilege privilege, int node, int column)
      throws ServerException {
    Dialect dialect = server.dialect();
    String become = dialect.become(user);
    String statement = statement(dialect, privilege, node, column);
    if (become == null || statement == null) {
      return Answer.NOT_TRIED;
    }
    int database = tree.enclosing(node, NodeKind.DATABASE);
    try (Connection connection = server.connect(login, database < 0 ? null : tree.name(database));
        Statement sql = connection.createStatement()) {
      connection.setAutoCommit(false);
      sql.execute(become);
      try {
        sql.execute(statement);
        return Answer.ALLOWED;
      } catch (SQLException refused) {
        return dialect.isRefusal(refused) ? Answer.REFUSED : Answer.ALLOWED;
      } finally {
        connection.rollback();
      }
    } catch (SQLException broken) {
      throw new ServerException(
          "trying as " + user + " on " + login.url() + " failed: " + broken.getMessage(), broken);
    }
  }

  private String statement(Dialect dialect, Privilege privilege, int node, int column) {
    NodeKind kind = tree.kind(node);
    if (kind != NodeKind.TABLE && kind != NodeKind.VIEW && kind != NodeKind.MATERIALIZED_VIEW) {
      return null;
    }
    String table =
        dialect.quoted(tree.name(tree.parent(node))) + "." + dialect.quoted(tree.name(node));
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
