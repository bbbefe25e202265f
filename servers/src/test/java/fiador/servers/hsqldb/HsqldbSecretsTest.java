package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.CreateUser;
import fiador.servers.Carrying;
import fiador.servers.jdbc.Login;
import fiador.servers.live.SecretRun;
import fiador.servers.live.SettleRun;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The files of an open database, its log among them, never hold a secret. */
class HsqldbSecretsTest {
  private static final String SECRET = "Qzxj'; DROP SCHEMA PUBLIC; --";

  @TempDir Path folder;

  @Test
  void neitherANewUsersNorAChangedSecretStandsInTheLog() throws Exception {
    String url = "jdbc:hsqldb:file:" + folder.resolve("db") + ";hsqldb.write_delay=false";
    HsqldbServer server = new HsqldbServer();
    Login login = new Login(url, "SA", "");
    try (Connection open = server.connect(login, null)) {
      new SettleRun(server, login, user -> SECRET.toCharArray())
          .carryOut(List.of(new CreateUser("o\"dd (secret)")), new Carrying.Nobody());
      assertThat(DriverManager.getConnection(url, "o\"dd (secret)", SECRET)).isNotNull();
      new SecretRun(server, login)
          .change(
              List.of("o\"dd (secret)"),
              SecretRun.Way.REPLACES,
              user -> (SECRET + "2").toCharArray(),
              done -> {});
      assertThat(DriverManager.getConnection(url, "o\"dd (secret)", SECRET + "2")).isNotNull();
      String log = Files.readString(folder.resolve("db.log"), StandardCharsets.ISO_8859_1);
      assertThat(log).contains("CREATE USER", "ALTER USER");
      try (Stream<Path> files = Files.list(folder)) {
        for (Path file : files.filter(Files::isRegularFile).toList()) {
          assertThat(Files.readString(file, StandardCharsets.ISO_8859_1))
              .as(file.toString())
              .doesNotContain("Qzxj");
        }
      }
      open.createStatement().execute("SHUTDOWN");
    }
  }
}
