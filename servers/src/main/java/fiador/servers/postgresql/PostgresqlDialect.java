package fiador.servers.postgresql;

import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.On;
import fiador.changes.steps.Rename;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.grants.Membership;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.OneSecret;
import fiador.servers.kind.SecretSql;
import fiador.servers.policies.SightStatements;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import org.postgresql.util.PasswordUtil;

/** PostgreSQL's SQL. */
final class PostgresqlDialect implements Dialect {
  /** Only the SCRAM verifier is sent: the secret itself never leaves this machine. */
  private static String verifier(String user, char[] secret) throws ServerException {
    try {
      String verifier = PasswordUtil.encodePassword(user, secret, "scram-sha-256");
      return "'" + verifier.replace("'", "''") + "'";
    } catch (SQLException impossible) {
      throw new ServerException("no SCRAM verifier could be made for " + user, impossible);
    }
  }

  @Override
  public List<String> createUser(Connection connection, String user, char[] secret)
      throws ServerException {
    return List.of(createUser(user, verifier(user, secret)));
  }

  @Override
  public SecretSql secrets() {
    return new OneSecret(
        (user, literal) -> "ALTER ROLE " + quoted(user) + " PASSWORD " + literal,
        PostgresqlDialect::verifier);
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE ROLE " + quoted(user) + " LOGIN PASSWORD " + secretLiteral;
  }

  @Override
  public String grantLater(GrantLater step) {
    return later(step.creator(), step.schema())
        + " GRANT "
        + what(step.privileges(), step.kind())
        + " TO "
        + principal(step.grantee())
        + (step.grantOption() ? " WITH GRANT OPTION" : "");
  }

  @Override
  public String revokeLater(RevokeLater step) {
    return later(step.creator(), step.schema())
        + " REVOKE "
        + what(step.privileges(), step.kind())
        + " FROM "
        + principal(step.grantee());
  }

  @Override
  public String setPower(SetPower step) {
    String word =
        switch (step.power()) {
          case MANAGE_ROLES -> "CREATEROLE";
          case CREATE_DATABASES -> "CREATEDB";
          case BYPASS_ROW_POLICIES -> "BYPASSRLS";
          case REPLICATION -> "REPLICATION";
          default -> throw new IllegalArgumentException("no statement sets " + step.power());
        };
    return "ALTER ROLE " + quoted(step.principal()) + (step.given() ? " " : " NO") + word;
  }

  @Override
  public String rename(Rename step) {
    return "ALTER ROLE " + quoted(step.from()) + " RENAME TO " + quoted(step.to());
  }

  @Override
  public String letLogIn(LetLogIn step) {
    return "ALTER ROLE " + quoted(step.user()) + (step.enabled() ? " LOGIN" : " NOLOGIN");
  }

  @Override
  public String limitAccount(LimitAccount step) {
    int most = step.after().getOrDefault(AccountLimit.CONNECTIONS, -1);
    return "ALTER ROLE " + quoted(step.user()) + " CONNECTION LIMIT " + most;
  }

  @Override
  public String limitInTime(LimitInTime step) {
    String end = step.until() == null ? "infinity" : step.until().toString();
    return "ALTER ROLE " + quoted(step.user()) + " VALID UNTIL '" + end + "'";
  }

  @Override
  public String changeOwner(ChangeOwner step) {
    String word =
        switch (step.on().kind()) {
          case VIEW -> "VIEW";
          case MATERIALIZED_VIEW -> "MATERIALIZED VIEW";
          default -> step.on().kind().name();
        };
    String path = on(step.on()).substring(word(step.on().kind()).length() + 1);
    return "ALTER " + word + " " + path + " OWNER TO " + quoted(step.owner());
  }

  @Override
  public String client() {
    return "psql --no-psqlrc -f FILE";
  }

  @Override
  public List<String> scriptHead(String identity) {
    List<String> lines = new ArrayList<>(List.of("\\set ON_ERROR_STOP on"));
    lines.addAll(check(null, identity));
    return lines;
  }

  @Override
  public List<String> scriptDatabase(String database, String identity) throws ServerException {
    if (database.matches("(?s).*[\r\n].*")) {
      throw new ServerException(
          "no script can go to the database " + database + ": its name has a line break", null);
    }
    String value = database.replace("\\", "\\\\").replace("'", "\\'");
    List<String> lines = new ArrayList<>();
    lines.add("\\connect -reuse-previous=on \"dbname='" + value.replace("\"", "\"\"") + "'\"");
    lines.addAll(check(database, identity));
    return lines;
  }

  /** With an empty path: operators that somebody put into it would run as whoever runs this. */
  private List<String> check(String database, String identity) {
    List<String> lines = new ArrayList<>();
    lines.add("SELECT pg_catalog.set_config('search_path', '', false);");
    StringJoiner wrong = new StringJoiner(" OR ");
    PostgresqlSightSql sql = new PostgresqlSightSql("");
    if (database != null) {
      wrong.add("current_database()::text <> " + sql.literal(database));
    }
    if (!identity.isEmpty()) {
      wrong.add(
          "(SELECT system_identifier::text FROM pg_control_system()) <> " + sql.literal(identity));
    }
    if (wrong.length() > 0) {
      String body =
          "BEGIN IF "
              + wrong
              + " THEN RAISE EXCEPTION 'this script was made for another server or database'; END"
              + " IF; END";
      lines.add("DO " + sql.literal(body) + ";");
    }
    return lines;
  }

  @Override
  public String createWithoutSecret(String user) {
    return "CREATE ROLE " + quoted(user) + " LOGIN";
  }

  @Override
  public String howToSetSecret() {
    return "\\password NAME in psql gives one";
  }

  private static final int OBJECTS_IN_A_STATEMENT = 500;

  private record Alike(
      String word, long privileges, List<String> columns, String grantee, boolean option) {}

  /** Grants that stand together and differ only in the object go into one statement. */
  @Override
  public List<Batch> batches(List<Step> steps) {
    List<Batch> batches = new ArrayList<>();
    Map<Alike, List<Step>> open = new LinkedHashMap<>();
    for (Step step : steps) {
      if (step instanceof Grant grant) {
        Alike alike =
            new Alike(
                word(grant.on().kind()),
                grant.privileges(),
                grant.columns(),
                grant.grantee(),
                grant.grantOption());
        open.computeIfAbsent(alike, fresh -> new ArrayList<>()).add(grant);
      } else {
        flush(open, batches);
        batches.add(batch(step));
      }
    }
    flush(open, batches);
    return batches;
  }

  private void flush(Map<Alike, List<Step>> open, List<Batch> batches) {
    open.forEach(
        (alike, steps) -> {
          for (int from = 0; from < steps.size(); from += OBJECTS_IN_A_STATEMENT) {
            List<Step> some =
                steps.subList(from, Math.min(steps.size(), from + OBJECTS_IN_A_STATEMENT));
            StringJoiner names = new StringJoiner(", ");
            some.forEach(
                step -> names.add(on(((Grant) step).on()).substring(alike.word().length() + 1)));
            String sql =
                "GRANT "
                    + privileges(alike.privileges(), alike.columns())
                    + " ON "
                    + alike.word()
                    + " "
                    + names
                    + " TO "
                    + principal(alike.grantee())
                    + (alike.option() ? " WITH GRANT OPTION" : "");
            batches.add(new Batch(sql, List.copyOf(some)));
          }
        });
    open.clear();
  }

  private String later(String creator, On container) {
    boolean schema = container.kind() == NodeKind.SCHEMA;
    return "ALTER DEFAULT PRIVILEGES FOR ROLE "
        + quoted(creator)
        + (schema ? " IN SCHEMA " + quoted(container.parts().get(0)) : "");
  }

  private String what(long privileges, NodeKind kind) {
    return privileges(privileges, List.of()) + " ON " + kind.name() + "S";
  }

  @Override
  public String giveRole(GiveRole give) {
    Membership how = give.how();
    if (!give.spelledOut()) {
      return Dialect.super.giveRole(give);
    }
    return "GRANT "
        + quoted(give.role())
        + " TO "
        + quoted(give.member())
        + " WITH ADMIN "
        + truth(how.admin())
        + ", INHERIT "
        + truth(how.inherit())
        + ", SET "
        + truth(how.set());
  }

  private static String truth(boolean so) {
    return so ? "TRUE" : "FALSE";
  }

  @Override
  public String takeRole(TakeRole take) {
    return Dialect.super.takeRole(take)
        + (take.grantor() == null ? "" : " GRANTED BY " + quoted(take.grantor()));
  }

  /** Only who gave it can take it, so the statement is run as that one. */
  @Override
  public String revoke(String what, On on, String grantee, String grantor) {
    String revoke = Dialect.super.revoke(what, on, grantee, grantor);
    return grantor == null
        ? revoke
        : "SET LOCAL ROLE " + quoted(grantor) + "; " + revoke + "; RESET ROLE";
  }

  /** Who has not the right to see all would get fewer rows without a word. */
  @Override
  public void seeAllRows(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("SET LOCAL row_security = off");
    }
  }

  /** Explaining checks all rights and stops before the first row, trigger or default. */
  @Override
  public void checkRights(Connection connection, String statement) throws SQLException {
    try (Statement explain = connection.createStatement()) {
      explain.execute("EXPLAIN (COSTS OFF) " + statement);
    }
  }

  @Override
  public String become(String user) {
    return "SET SESSION AUTHORIZATION " + quoted(user);
  }

  @Override
  public String lock(Connection connection) throws SQLException {
    return SettleLock.take(connection);
  }

  @Override
  public boolean isLockTimeout(SQLException refused) {
    return SettleLock.TIMED_OUT.equals(refused.getSQLState());
  }

  @Override
  public boolean transactional() {
    return true;
  }

  @Override
  public SightStatements policies() {
    return new PostgresqlSight();
  }
}
