package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.ColumnType;
import fiador.policies.SafeColumn;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.TableReader;
import fiador.servers.kind.Server;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.Statement;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.TimeZone;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A time on a server is read as it stands there, wherever it is asked from. */
class TimesTest {
  private static final List<String> TIMES =
      List.of(
          "2024-03-31 02:30:00",
          "2024-09-08 00:30:00",
          "2024-01-01 00:00:00.001",
          "2024-01-01 00:00:00.1",
          "2024-01-01 00:00:00.000001",
          "1582-10-10 12:00:00",
          "0999-12-31 23:59:59.999999");

  private final TimeZone zone = TimeZone.getDefault();

  @BeforeEach
  void whereTheClocksSkipAnHour() {
    // at midnight, on the 8th of September
    TimeZone.setDefault(TimeZone.getTimeZone("America/Santiago"));
  }

  @AfterEach
  void back() {
    TimeZone.setDefault(zone);
  }

  private static void asTheyStand(Server server, Login login, String type) throws Exception {
    List<LocalDateTime> read = new ArrayList<>();
    try (Connection connection = server.connect(login, null);
        Statement statement = connection.createStatement()) {
      statement.execute("create schema times");
      statement.execute("create table times.t (id int, at " + type + ")");
      int id = 0;
      for (String time : TIMES) {
        statement.execute("insert into times.t values (" + id++ + ", '" + time + "')");
      }
      TableReader.read(
          connection,
          "select at from times.t order by id",
          List.of(new SafeColumn("at", ColumnType.TIMESTAMP)),
          server.times(),
          row -> read.add((LocalDateTime) row[0]));
      statement.execute(
          server.kind().equals("mariadb") ? "drop schema times" : "drop schema times cascade");
    }
    assertThat(read)
        .containsExactlyElementsOf(
            TIMES.stream().map(time -> LocalDateTime.parse(time.replace(' ', 'T'))).toList());
  }

  @Test
  void onMariadb() throws Exception {
    asTheyStand(Servers.named("mariadb").orElseThrow(), RealMariadb.login(), "datetime(6)");
  }

  @Test
  void onPostgresql() throws Exception {
    asTheyStand(Servers.named("postgresql").orElseThrow(), RealPostgresql.login(18), "timestamp");
  }

  @Test
  void onHsqldb() throws Exception {
    Server server = Servers.named("hsqldb").orElseThrow();
    Login memory = new Login("jdbc:hsqldb:mem:times", "SA", "");
    List<LocalDateTime> read = new ArrayList<>();
    try (Connection connection = server.connect(memory, null);
        Statement statement = connection.createStatement()) {
      statement.execute("create table t (id int, moment timestamp(6))");
      for (int id = 0; id < TIMES.size(); id++) {
        if (!TIMES.get(id).startsWith("1582")) {
          statement.execute("insert into t values (" + id + ", '" + TIMES.get(id) + "')");
        }
      }
      TableReader.read(
          connection,
          "select moment from t order by id",
          List.of(new SafeColumn("MOMENT", ColumnType.TIMESTAMP)),
          server.times(),
          row -> read.add((LocalDateTime) row[0]));
    }
    assertThat(read)
        .containsExactlyElementsOf(
            TIMES.stream()
                .filter(time -> !time.startsWith("1582"))
                .map(time -> LocalDateTime.parse(time.replace(' ', 'T')))
                .toList());
  }
}
