package fiador.servers.mariadb;

import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.estate.AccountLimit;
import fiador.estate.DottedName;
import fiador.estate.NodeKind;
import fiador.grants.AccountName;
import fiador.grants.SchemaPattern;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.SecretSql;
import fiador.servers.policies.SightStatements;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** MariaDB's SQL. */
final class MariadbDialect implements Dialect {
  /** What tells a server from others. */
  static final String IDENTITY = "concat(@@hostname, ':', @@port, ':', @@datadir)";

  /** Only what the server keeps is sent: statements end up in logs, and go over the line. */
  @Override
  public List<String> createUser(Connection connection, String user, char[] secret)
      throws SQLException {
    String way = SecretHash.of(connection, secret);
    return List.of("CREATE USER " + principal(user) + " IDENTIFIED VIA " + way);
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE USER " + principal(user) + " IDENTIFIED BY " + secretLiteral;
  }

  @Override
  public SecretSql secrets() {
    return new MariadbSecrets(this::principal);
  }

  @Override
  public String rename(Rename step) {
    return "RENAME USER " + principal(step.from()) + " TO " + principal(step.to());
  }

  @Override
  public String letLogIn(LetLogIn step) {
    String word = step.enabled() ? " ACCOUNT UNLOCK" : " ACCOUNT LOCK";
    return "ALTER USER " + principal(step.user()) + word;
  }

  /** What the client's certificate must be like stays: a charter says nothing of it. */
  @Override
  public String limitAccount(LimitAccount step) {
    int line = step.after().getOrDefault(AccountLimit.ENCRYPTED, 0);
    int before = step.before().getOrDefault(AccountLimit.ENCRYPTED, 0);
    String require = line == before ? "" : " REQUIRE " + (line == 0 ? "NONE" : "SSL");
    return "ALTER USER "
        + principal(step.user())
        + require
        + " WITH MAX_QUERIES_PER_HOUR "
        + most(step, AccountLimit.QUERIES_PER_HOUR)
        + " MAX_UPDATES_PER_HOUR "
        + most(step, AccountLimit.UPDATES_PER_HOUR)
        + " MAX_CONNECTIONS_PER_HOUR "
        + most(step, AccountLimit.CONNECTIONS_PER_HOUR)
        + " MAX_USER_CONNECTIONS "
        + connections(step)
        + " MAX_STATEMENT_TIME "
        + BigDecimal.valueOf(most(step, AccountLimit.STATEMENT_MILLISECONDS), 3).toPlainString();
  }

  /** Below zero for none at all. */
  private static int connections(LimitAccount step) {
    int most = step.after().getOrDefault(AccountLimit.CONNECTIONS, -1);
    return most == 0 ? -1 : Math.max(0, most);
  }

  /** 0 for as many as there are. */
  private static int most(LimitAccount step, AccountLimit limit) {
    return step.after().getOrDefault(limit, 0);
  }

  @Override
  public String defaultRole(DefaultRole step) {
    String name = step.role() == null ? "NONE" : quoted(step.role());
    return "SET DEFAULT ROLE " + name + " FOR " + principal(step.member());
  }

  @Override
  public String client() {
    return "mariadb --no-defaults --user=... -p < FILE; it stops at the first error";
  }

  @Override
  public List<String> scriptHead(String identity) {
    List<String> lines = new ArrayList<>();
    lines.add("SET SESSION sql_mode = 'STRICT_TRANS_TABLES,NO_ENGINE_SUBSTITUTION';");
    lines.add("SET NAMES utf8mb4;");
    if (!identity.isEmpty()) {
      lines.add("DELIMITER //");
      lines.add(
          "BEGIN NOT ATOMIC IF CONVERT("
              + IDENTITY
              + " USING utf8mb4) COLLATE utf8mb4_bin <> "
              + new MariadbSightSql("").literal(identity)
              + " COLLATE utf8mb4_bin THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT ="
              + " 'this script was made for another server'; END IF; END//");
      lines.add("DELIMITER ;");
    }
    return lines;
  }

  @Override
  public String createWithoutSecret(String user) {
    return "CREATE USER "
        + principal(user)
        + " IDENTIFIED VIA mysql_native_password USING 'invalid'";
  }

  @Override
  public String howToSetSecret() {
    return "SET PASSWORD FOR NAME = PASSWORD('...') gives one";
  }

  /** The right to grant on is one for the place, whatever the privileges. */
  @Override
  public String revoke(String what, On on, String grantee, String grantor) {
    String rights = what.startsWith("GRANT OPTION FOR ") ? "GRANT OPTION" : what;
    return Dialect.super.revoke(rights, on, grantee, grantor);
  }

  /**
   * The server does not find a routine's privileges of an account with other letters than ASCII in
   * its name once it has read them from its tables; giving them anew lets it find them.
   */
  @Override
  public Batch batch(Step step) {
    boolean unfound =
        step instanceof Revoke revoke
            && revoke.on().kind() == NodeKind.ROUTINE
            && revoke.grantee().indexOf('@') >= 0
            && revoke.grantee().chars().anyMatch(letter -> letter > 127);
    if (!unfound) {
      return Dialect.super.batch(step);
    }
    Revoke revoke = (Revoke) step;
    String grant = grant(revoke.privileges(), revoke.on(), List.of(), revoke.grantee(), false);
    String sql = sql(step);
    return new Batch(grant + ";\n" + sql, List.of(grant, sql), List.of(step));
  }

  /** Grants stay with the name, so they are given by the new one and taken by the old one. */
  @Override
  public List<String> statements(Step step) {
    if (!(step instanceof MoveTable move)) {
      return Dialect.super.statements(step);
    }
    List<String> statements = new ArrayList<>(Dialect.super.statements(move));
    move.grants().forEach(given -> statements.add(sql(given)));
    move.moved(move.from()).forEach(given -> statements.add(sql(given.inverse())));
    return statements;
  }

  @Override
  public String withOption(String what) {
    return what + ", GRANT OPTION";
  }

  @Override
  public String on(On on) {
    return switch (on.kind()) {
      case SERVER -> "*.*";
      case SCHEMA -> quoted(SchemaPattern.of(on.parts().get(0))) + ".*";
      case ROUTINE -> (on.procedure() ? "PROCEDURE " : "FUNCTION ") + path(on);
      default -> "TABLE " + path(on);
    };
  }

  private String path(On on) {
    String last = on.parts().get(1);
    return quoted(on.parts().get(0))
        + "."
        + (on.kind() == NodeKind.ROUTINE ? routine(last) : quoted(last));
  }

  @Override
  public String routine(String nameAndTypes) {
    return quoted(DottedName.withoutArguments(nameAndTypes));
  }

  /** Accounts have a host behind their name, roles have none. */
  @Override
  public String principal(String name) {
    if (name.indexOf('@') < 0) {
      return name.equals("PUBLIC") ? name : quoted(name);
    }
    AccountName account = AccountName.of(name);
    return quoted(account.user()) + "@" + quoted(account.host());
  }

  /** The driver's own switch is a matter of the session, which a statement could turn back. */
  @Override
  public void beginReadOnly(Connection connection) throws SQLException {
    connection.setAutoCommit(false);
    try (Statement statement = connection.createStatement()) {
      statement.execute("START TRANSACTION READ ONLY");
    }
  }

  @Override
  public String lock(Connection connection) throws SQLException {
    return SettleLock.take(connection);
  }

  @Override
  public boolean isLockTimeout(SQLException refused) {
    return refused.getErrorCode() == SettleLock.TIMED_OUT;
  }

  @Override
  public boolean transactional() {
    return false;
  }

  @Override
  public String quoted(String name) {
    return '`' + name.replace("`", "``") + '`';
  }

  @Override
  public SightStatements policies() {
    return new MariadbSight();
  }
}
