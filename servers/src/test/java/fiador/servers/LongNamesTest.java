package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.Step;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.grants.Access;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.mariadb.RandomMariadb;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Tables with names as long as the server keeps get safe views, in one settle, that stay. */
final class LongNamesTest {
  private static final Wanted.Place HERE = new Wanted.Place("charter", 1, 1);

  private static Wanted wanted(String table) throws Exception {
    WantedSight sight =
        new WantedSight(
            List.of(),
            List.of(
                new WantedSight.Masks(
                    "hidden",
                    List.of(new WantedSight.Labelled("longs." + table + ".word", HERE)),
                    List.of(),
                    List.of(),
                    Expression.TRUE,
                    Map.of("text", Mask.of("stars")),
                    0,
                    ViewPlace.UNSAID,
                    HERE)),
            Map.of("\"Ana B\"", Map.of("k", List.of("v"))),
            List.of(),
            Map.of(),
            List.of(),
            true);
    return new Wanted(
        List.of(),
        List.of(new Wanted.Principal("\"Ana B\"", HERE)),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        new Wanted.Governs(List.of("longs"), List.of(), List.of()),
        sight);
  }

  private static Gap gap(Server server, Login login, String table, List<String> databases)
      throws Exception {
    Access access = server.survey(login, "s", databases, Instant.EPOCH, note -> {});
    Gap gap = Gap.between(access, wanted(table), false, Set.of(login.user()), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    return gap;
  }

  private static void settledOnce(Server server, Login login, String table, List<String> databases)
      throws Exception {
    List<Step> steps = gap(server, login, table, databases).plan().steps();
    assertThat(steps)
        .filteredOn(SetAttribute.class::isInstance)
        .extracting(step -> ((SetAttribute) step).attribute())
        .doesNotContain("name");
    Carrying.out(server, login, steps.toArray(Step[]::new));
    assertThat(gap(server, login, table, databases).plan().steps()).isEmpty();
  }

  @Test
  void onPostgresql() throws Exception {
    Login login = RealPostgresql.login(18);
    String table = "t".repeat(61) + "é";
    try (Connection home = RealPostgresql.connect(login, null);
        Statement make = home.createStatement()) {
      make.execute("CREATE DATABASE longs");
      try (Connection admin = RealPostgresql.connect(login, "longs");
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA longs");
        statement.execute("CREATE TABLE longs.\"" + table + "\" (word text)");
      }
      settledOnce(new PostgresqlServer(), login, '"' + table + '"', List.of("longs"));
      make.execute("DROP DATABASE longs");
      make.execute("DROP ROLE \"Ana B\"");
    }
  }

  @Test
  void onMariadb() throws Exception {
    RandomMariadb.clear(RealMariadb.login());
    Login login = RealMariadb.login();
    MariadbServer server = new MariadbServer();
    String table = "t".repeat(63) + "é";
    try (Connection admin = server.connect(login, null);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE DATABASE longs");
      statement.execute("CREATE TABLE longs.`" + table + "` (word varchar(20))");
      settledOnce(server, login, '"' + table + '"', List.of());
      statement.execute("DROP DATABASE longs");
      statement.execute("DROP DATABASE fiador_guard");
      statement.execute("DROP USER `Ana B`@'%'");
    }
  }
}
