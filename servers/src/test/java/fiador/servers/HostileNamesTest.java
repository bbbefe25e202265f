package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import fiador.changes.planning.Plan;
import fiador.changes.planning.Planner;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Principal;
import fiador.grants.Access;
import fiador.servers.hsqldb.HsqldbServer;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Names that try to break out of SQL: made exactly as they are and dropped again, or refused. */
class HostileNamesTest {
  private static final Place HERE = new Place("roles.yaml", 1, 1);

  private static final List<String> NAMES =
      List.of(
          "double\"quote",
          "\"; DROP ROLE postgres; --",
          "single'quote",
          "'; DROP TABLE t; --",
          "back`tick",
          "`; DROP DATABASE test; --",
          "semi;colon",
          "line\nbreak",
          "tab\tand\rreturn",
          "$$dollar$$ $q$quotes$q$",
          "back\\slash\\'",
          "percent%_under",
          "comment /* open",
          "comment -- line",
          "{braces} ${and} :colon ?",
          "ünïcödé 名前",
          "MixedCase",
          "select",
          "x".repeat(63));

  private static final List<String> TOO_LONG =
      List.of("x".repeat(64), "é".repeat(40), "y".repeat(200));

  private static Wanted wanted(List<String> names) {
    List<Principal> roles = new ArrayList<>();
    // in quotes a name is meant as it stands
    names.forEach(name -> roles.add(new Principal('"' + name.replace("\"", "\"\"") + '"', HERE)));
    return new Wanted(roles, List.of(), List.of(), List.of());
  }

  private static Access survey(Server server, Login login) throws Exception {
    return server.survey(login, "s", List.of(), Instant.now(), note -> {});
  }

  private void madeAndDropped(Server server, Login login) throws Exception {
    Plan plan = new Planner(survey(server, login)).plan(wanted(NAMES));
    assertThat(plan.problems()).isEmpty();
    assertThat(plan.steps()).hasSameSizeAs(NAMES);
    SettleRun run = new SettleRun(server, login, user -> new char[] {'x'});
    run.carryOut(plan.steps(), new Nothing());
    Access made = survey(server, login);
    assertThat(NAMES).allMatch(name -> made.principals().named(name) > 0);
    List<Step> back = plan.steps().stream().map(Step::inverse).toList();
    run.carryOut(back, new Nothing());
    Access gone = survey(server, login);
    assertThat(NAMES).noneMatch(name -> gone.principals().named(name) > 0);
  }

  private static final class Nothing implements SettleRun.Witness {
    @Override
    public void begins(List<Step> some) {}

    @Override
    public void done(List<Step> some, String sql) {}
  }

  @Test
  void onPostgresql() throws Exception {
    Login login = RealPostgresql.login(18);
    PostgresqlServer server = new PostgresqlServer();
    madeAndDropped(server, login);
    Plan refused = new Planner(survey(server, login)).plan(wanted(TOO_LONG));
    assertThat(refused.problems()).hasSize(3);
    assertThat(refused.problems().get(1).message()).contains("63 bytes").contains("has 80");
  }

  @Test
  void onMariadb() throws Exception {
    assumeTrue(System.getProperty("os.name").equals("Linux"));
    assumeTrue(System.getProperty("os.arch").equals("amd64"));
    Login login = RealMariadb.login();
    MariadbServer server = new MariadbServer();
    madeAndDropped(server, login);
    List<String> longOrOdd = List.of("y".repeat(200), "at@sign", "blank ", "key \uD83D\uDD11");
    Plan refused = new Planner(survey(server, login)).plan(wanted(longOrOdd));
    assertThat(refused.problems()).hasSize(4);
    assertThat(refused.problems().get(0).message()).contains("128 characters");
  }

  @Test
  void onHsqldb() throws Exception {
    Login login = new Login("jdbc:hsqldb:mem:hostile", "SA", "");
    HsqldbServer server = new HsqldbServer();
    try (Connection keep = server.connect(login, null);
        Statement sql = keep.createStatement()) {
      madeAndDropped(server, login);
      Plan refused = new Planner(survey(server, login)).plan(wanted(TOO_LONG));
      assertThat(refused.problems()).hasSize(1);
      sql.execute("SHUTDOWN");
    }
  }
}
