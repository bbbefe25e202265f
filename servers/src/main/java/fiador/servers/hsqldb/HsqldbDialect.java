package fiador.servers.hsqldb;

import fiador.changes.Step;
import fiador.servers.Dialect;

/** HSQLDB's SQL. */
final class HsqldbDialect implements Dialect {
  @Override
  public String createUser(String user, char[] secret) {
    return createUser(user, "'" + new String(secret).replace("'", "''") + "'");
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE USER " + quoted(user) + " PASSWORD " + secretLiteral;
  }

  @Override
  public String grantLater(Step.GrantLater later) {
    throw new IllegalArgumentException("HSQLDB has no grants for what will be created later");
  }

  /** A grant on a routine reaches all of that name. */
  @Override
  public String routine(String nameAndTypes) {
    return quoted(nameAndTypes.substring(0, nameAndTypes.indexOf('(')));
  }

  @Override
  public boolean transactional() {
    return false;
  }
}
