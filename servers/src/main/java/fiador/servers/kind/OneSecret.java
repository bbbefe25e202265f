package fiador.servers.kind;

import fiador.servers.jdbc.ServerException;
import java.sql.Connection;
import java.util.function.BinaryOperator;

/**
 * Secrets where an account has one.
 *
 * @param statement from a user and the literal of a secret to what sets it
 * @param literal how a secret is sent
 */
public record OneSecret(BinaryOperator<String> statement, Literal literal) implements SecretSql {
  /** Writes what is sent of a secret. */
  @FunctionalInterface
  public interface Literal {
    /** As SQL, quotes and all. */
    String of(String user, char[] secret) throws ServerException;
  }

  @Override
  public String shown(String user) {
    return statement.apply(user, Dialect.HIDDEN);
  }

  @Override
  public String replacing(Connection connection, String user, char[] secret)
      throws ServerException {
    return statement.apply(user, literal.of(user, secret));
  }
}
