package fiador.servers.mariadb;

import fiador.changes.Step;
import fiador.servers.Dialect;

/** MariaDB's SQL. */
final class MariadbDialect implements Dialect {
  @Override
  public String createUser(String user, char[] secret) {
    return createUser(
        user, "'" + new String(secret).replace("\\", "\\\\").replace("'", "''") + "'");
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE USER " + quoted(user) + " IDENTIFIED BY " + secretLiteral;
  }

  @Override
  public String grantLater(Step.GrantLater later) {
    throw new IllegalArgumentException("in MariaDB a grant on a schema covers later objects");
  }

  @Override
  public boolean transactional() {
    return false;
  }

  @Override
  public String quoted(String name) {
    return '`' + name.replace("`", "``") + '`';
  }
}
