package fiador.servers.postgresql;

import fiador.changes.Step;
import fiador.servers.Dialect;
import fiador.servers.ServerException;
import java.sql.SQLException;
import org.postgresql.util.PasswordUtil;

/** PostgreSQL's SQL. */
final class PostgresqlDialect implements Dialect {
  /** Only the SCRAM verifier is sent: the secret itself never leaves this machine. */
  @Override
  public String createUser(String user, char[] secret) throws ServerException {
    try {
      String verifier = PasswordUtil.encodePassword(user, secret, "scram-sha-256");
      return createUser(user, "'" + verifier.replace("'", "''") + "'");
    } catch (SQLException impossible) {
      throw new ServerException("no SCRAM verifier could be made for " + user, impossible);
    }
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE ROLE " + quoted(user) + " LOGIN PASSWORD " + secretLiteral;
  }

  @Override
  public String grantLater(Step.GrantLater later) {
    String where =
        switch (later.schema().kind()) {
          case SCHEMA -> " IN SCHEMA " + quoted(later.schema().parts().get(0));
          default -> "";
        };
    return "ALTER DEFAULT PRIVILEGES FOR ROLE "
        + quoted(later.creator())
        + where
        + " GRANT "
        + privileges(later.privileges(), java.util.List.of())
        + " ON "
        + later.kind().name()
        + "S TO "
        + quoted(later.grantee())
        + (later.grantOption() ? " WITH GRANT OPTION" : "");
  }

  @Override
  public boolean transactional() {
    return true;
  }
}
