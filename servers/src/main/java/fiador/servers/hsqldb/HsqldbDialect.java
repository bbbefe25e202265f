package fiador.servers.hsqldb;

import fiador.changes.steps.On;
import fiador.changes.steps.TakeRole;
import fiador.estate.DottedName;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.OneSecret;
import fiador.servers.kind.SecretSql;
import fiador.servers.policies.SightStatements;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;

/** HSQLDB's SQL. */
final class HsqldbDialect implements Dialect {
  private static final int NO_RIGHT = -5501;
  private static final int NO_SUCH_OBJECT = -5500;

  @Override
  public List<String> createUser(Connection connection, String user, char[] secret) {
    // CREATE USER stands in the database's log as it was sent; a change stands there as a digest
    return List.of(createWithoutSecret(user), changed(user, literal(secret)));
  }

  private static String literal(char[] secret) {
    return "'" + new String(secret).replace("'", "''") + "'";
  }

  @Override
  public SecretSql secrets() {
    return new OneSecret(this::changed, (user, secret) -> literal(secret));
  }

  private String changed(String user, String literal) {
    return "ALTER USER " + quoted(user) + " SET PASSWORD " + literal;
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE USER " + quoted(user) + " PASSWORD " + secretLiteral;
  }

  @Override
  public String client() {
    return "any client of HSQLDB, as an administrator";
  }

  /** No text has this as its digest. */
  @Override
  public String createWithoutSecret(String user) {
    return "CREATE USER " + quoted(user) + " PASSWORD DIGEST '" + "0".repeat(32) + "'";
  }

  @Override
  public String howToSetSecret() {
    return "ALTER USER NAME SET PASSWORD '...' gives one";
  }

  @Override
  public String revoke(String what, On on, String grantee, String grantor) {
    return Dialect.super.revoke(what, on, grantee, grantor) + " RESTRICT";
  }

  @Override
  public String takeRole(TakeRole take) {
    return Dialect.super.takeRole(take) + " RESTRICT";
  }

  /** A grant on a routine reaches all of that name. */
  @Override
  public String routine(String nameAndTypes) {
    return quoted(DottedName.withoutArguments(nameAndTypes));
  }

  @Override
  public String become(String user) {
    return "SET SESSION AUTHORIZATION '" + user.replace("'", "''") + "'";
  }

  /** One held read-only compiles no statement that writes; and none is ever carried out here. */
  @Override
  public void beginAsking(Connection connection) throws SQLException {
    connection.setAutoCommit(false);
  }

  /** Rights are checked when a statement is compiled. */
  @Override
  public void checkRights(Connection connection, String statement) throws SQLException {
    connection.prepareStatement(statement).close();
  }

  /** A thing that one may not touch at all is said not to be there. */
  @Override
  public boolean isRefusal(SQLException refused) {
    return refused.getErrorCode() == NO_RIGHT || refused.getErrorCode() == NO_SUCH_OBJECT;
  }

  @Override
  public boolean transactional() {
    return false;
  }

  @Override
  public SightStatements policies() {
    return new HsqldbSight();
  }
}
