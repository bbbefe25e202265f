package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Use;
import fiador.files.usage.UsageReader;
import fiador.grants.Access;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.RealPostgresql;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Logs as real servers write them. */
class RealLogsTest {
  @TempDir Path folder;

  private static void run(String url, String user, String secret, String... statements)
      throws SQLException {
    try (Connection connection = DriverManager.getConnection(url, user, secret);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static Set<String> uses(Access access, Path log) throws Exception {
    Evidence evidence = UsageReader.read(access, List.of(log), note -> {});
    assertThat(evidence).as("%s", log).isNotNull();
    TreeSet<String> found = new TreeSet<>();
    for (Use use : evidence.uses().keySet()) {
      String user = access.principals().name(use.user());
      String column = use.column() < 0 ? "" : "." + access.tree().column(use.node(), use.column());
      if (user.startsWith("ines")) {
        found.add(use.privilege().text() + " " + access.tree().name(use.node()) + column);
      }
    }
    return found;
  }

  private static Access survey(Login login, String kind) throws Exception {
    return Servers.named(kind)
        .orElseThrow()
        .survey(login, "s", List.of(), Instant.now(), note -> {});
  }

  @Test
  void postgresqlsLogsOfBothKinds() throws Exception {
    Path logs = Files.createDirectory(folder.resolve("logs"));
    logs.toFile().setWritable(true, false);
    folder.toFile().setExecutable(true, false);
    folder.toFile().setReadable(true, false);
    try (EmbeddedPostgres server = RealPostgresql.withLogs(18, logs)) {
      String url = "jdbc:postgresql://127.0.0.1:" + server.getPort() + "/postgres";
      run(
          url,
          "postgres",
          "",
          "create table public.t (a int, b text)",
          "create role ines login",
          "grant select, insert on public.t to ines");
      run(
          url,
          "ines",
          "",
          "select a\n  from public.t where b = 'x, \"y\"'",
          "insert into t (a) values (1)");
      Access access = survey(new Login(url, "postgres", ""), "postgresql");
      for (String kind : List.of("log.csv", "log.json")) {
        assertThat(uses(access, logs.resolve(kind)))
            .as(kind)
            .contains("select t.a", "select t.b", "insert t.a");
      }
    }
  }

  @Test
  void mariadbsGeneralLog() throws Exception {
    Login login = RealMariadb.login();
    Path log = folder.resolve("general.log");
    folder.toFile().setWritable(true, false);
    folder.toFile().setExecutable(true, false);
    run(
        login.url(),
        "root",
        "",
        "create database logged",
        "create table logged.t (a int, b varchar(9))",
        "create user ines@'127.0.0.1' identified by 'i'",
        "grant select, update on logged.t to ines@'127.0.0.1'",
        "set global general_log_file = '" + log.toAbsolutePath() + "'",
        "set global general_log = 1");
    try {
      run(
          login.url(),
          "ines",
          "i",
          "use logged",
          "select a\n from t\n where b = 'it\\'s'",
          "update t set b = 'y' where a = 2");
      Access access = survey(login, "mariadb");
      run(login.url(), "root", "", "set global general_log = 0");
      assertThat(uses(access, log)).contains("select t.a", "select t.b", "update t.b");
    } finally {
      run(
          login.url(),
          "root",
          "",
          "set global general_log = 0",
          "drop database logged",
          "drop user ines@'127.0.0.1'");
    }
  }
}
