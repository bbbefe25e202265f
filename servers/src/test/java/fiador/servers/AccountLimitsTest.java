package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.estate.AccountLimit;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.servers.hsqldb.HsqldbServer;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What servers keep accounts to is read, set, compared, and taken back. */
final class AccountLimitsTest {
  private static final Wanted.Place HERE = new Wanted.Place("charter", 1, 1);

  private static final Map<AccountLimit, Integer> ALL =
      Map.of(
          AccountLimit.CONNECTIONS, 3,
          AccountLimit.CONNECTIONS_PER_HOUR, 40,
          AccountLimit.QUERIES_PER_HOUR, 500,
          AccountLimit.UPDATES_PER_HOUR, 60,
          AccountLimit.STATEMENT_MILLISECONDS, 2_500,
          AccountLimit.ENCRYPTED, AccountLimit.BY_TLS);

  private static Access survey(Server server, Login login) throws Exception {
    return server.survey(login, "s", List.of(), Instant.EPOCH, note -> {});
  }

  private static Map<AccountLimit, Integer> limits(Access access) {
    int id = new Lookup(access).principal("limited").id();
    return access.principals().account(id).limits();
  }

  private static Gap gap(Access access, Map<AccountLimit, Integer> limits) {
    Wanted.LoginTerms terms = new Wanted.LoginTerms(false, null, List.of(), limits);
    Wanted wanted =
        new Wanted(
            List.of(), List.of(new Wanted.Principal("limited", terms, HERE)), List.of(), List.of());
    Gap gap = Gap.between(access, wanted, false, Set.of(), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    return gap;
  }

  private static List<Step> settle(
      Server server, Login login, Access access, Map<AccountLimit, Integer> limits)
      throws Exception {
    List<Step> steps = gap(access, limits).plan().steps();
    run(server, login, steps);
    Access after = survey(server, login);
    assertThat(new Done(after).missing(steps)).isEmpty();
    assertThat(gap(after, limits).plan().steps()).isEmpty();
    return steps;
  }

  private static void run(Server server, Login login, List<Step> steps) throws Exception {
    try (Connection connection = server.connect(login, null);
        Statement statement = connection.createStatement()) {
      for (Step step : steps) {
        for (String sql : server.dialect().statements(step)) {
          statement.execute(sql);
        }
      }
    }
  }

  private static void execute(Server server, Login login, String sql) throws Exception {
    try (Connection connection = server.connect(login, null);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Test
  void ofMariadb() throws Exception {
    Server server = new MariadbServer();
    Login login = RealMariadb.login();
    execute(server, login, "CREATE USER limited@'%' IDENTIFIED BY 'x' WITH MAX_UPDATES_PER_HOUR 7");
    Access before = survey(server, login);
    Map<AccountLimit, Integer> seven = Map.of(AccountLimit.UPDATES_PER_HOUR, 7);
    assertThat(limits(before)).isEqualTo(seven);
    assertThat(gap(before, null).plan().steps()).isEmpty();
    List<Step> steps = settle(server, login, before, ALL);
    assertThat(limits(survey(server, login))).isEqualTo(ALL);
    run(server, login, new Done(survey(server, login)).undo(steps));
    assertThat(limits(survey(server, login))).isEqualTo(seven);
    settle(server, login, survey(server, login), Map.of());
    assertThat(limits(survey(server, login))).isEmpty();

    execute(server, login, "ALTER USER limited@'%' WITH MAX_USER_CONNECTIONS -1");
    Map<AccountLimit, Integer> none = Map.of(AccountLimit.CONNECTIONS, 0);
    assertThat(limits(survey(server, login))).isEqualTo(none);
    List<Step> opened = settle(server, login, survey(server, login), ALL);
    run(server, login, new Done(survey(server, login)).undo(opened));
    assertThat(limits(survey(server, login))).isEqualTo(none);
    settle(server, login, survey(server, login), Map.of());

    execute(server, login, "ALTER USER limited@'%' REQUIRE SUBJECT '/CN=limited'");
    Access certified = survey(server, login);
    assertThat(limits(certified))
        .containsEntry(AccountLimit.ENCRYPTED, AccountLimit.BY_CERTIFICATE);
    settle(server, login, certified, Map.of(AccountLimit.ENCRYPTED, AccountLimit.BY_TLS));
    assertThat(gap(survey(server, login), Map.of()).plan().steps()).isEmpty();
    assertThat(gap(survey(server, login), Map.of()).plan().notes())
        .anyMatch(note -> note.contains("has to show a certificate"));
    execute(server, login, "DROP USER limited@'%'");
  }

  @Test
  void ofPostgresql() throws Exception {
    Server server = new PostgresqlServer();
    Login login = RealPostgresql.login(18);
    execute(server, login, "CREATE ROLE limited LOGIN");
    List<Step> steps = settle(server, login, survey(server, login), ALL);
    assertThat(steps).hasSize(1).allMatch(LimitAccount.class::isInstance);
    assertThat(gap(survey(server, login), ALL).plan().notes())
        .anyMatch(note -> note.contains("keeps no account to connections_per_hour"));
    Map<AccountLimit, Integer> three = Map.of(AccountLimit.CONNECTIONS, 3);
    assertThat(limits(survey(server, login))).isEqualTo(three);
    Login limited = login.as("limited", "");
    try (Connection one = server.connect(limited, null);
        Connection two = server.connect(limited, null);
        Connection third = server.connect(limited, null)) {
      assertThat(one.isClosed() || two.isClosed() || third.isClosed()).isFalse();
      assertThat(catchMessage(server, limited)).contains("too many connections");
    }
    run(server, login, new Done(survey(server, login)).undo(steps));
    assertThat(limits(survey(server, login))).isEmpty();
    execute(server, login, "DROP ROLE limited");
  }

  private static String catchMessage(Server server, Login login) throws SQLException {
    try (Connection connection = server.connect(login, null)) {
      return "let in as " + connection.getMetaData().getUserName();
    } catch (ServerException refused) {
      return String.valueOf(refused.getMessage());
    }
  }

  @Test
  void ofHsqldbThereAreNone() throws Exception {
    Server server = new HsqldbServer();
    Login login = new Login("jdbc:hsqldb:mem:limits", "SA", "");
    execute(server, login, "CREATE USER LIMITED PASSWORD 'x'");
    Gap gap = gap(survey(server, login), ALL);
    assertThat(gap.plan().steps()).isEmpty();
    assertThat(gap.plan().notes())
        .anyMatch(note -> note.contains("keeps no account to connections"));
    execute(server, login, "SHUTDOWN");
  }
}
