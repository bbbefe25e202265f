package fiador.servers.kind;

import fiador.servers.jdbc.ServerException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;

/**
 * Writes the statements about the secrets of accounts that are there. What is sent holds no more of
 * a secret than the server keeps, where it takes that; it is never shown.
 */
public interface SecretSql {
  /** As it is shown: {@link Dialect#HIDDEN} stands for the secret. */
  String shown(String user);

  /**
   * Puts a secret in the place of all that the account has.
   *
   * @param connection to ask what the server takes
   */
  String replacing(Connection connection, String user, char[] secret)
      throws ServerException, SQLException;

  /** How else an account proves who it is, which a new secret would end; empty for nothing else. */
  default List<String> otherProofs(Connection connection, String user) throws SQLException {
    return List.of();
  }

  /** Whether an account can have two secrets side by side. */
  default boolean keepsTwo() {
    return false;
  }

  /**
   * Puts a secret beside the newest one that the account has.
   *
   * @throws ServerException where it has none
   */
  default String beside(Connection connection, String user, char[] secret)
      throws ServerException, SQLException {
    throw new UnsupportedOperationException("one secret of an account");
  }

  /**
   * Leaves the newest secret of an account alone.
   *
   * @throws ServerException where there is nothing to drop
   */
  default String newestAlone(Connection connection, String user)
      throws ServerException, SQLException {
    throw new UnsupportedOperationException("one secret of an account");
  }
}
