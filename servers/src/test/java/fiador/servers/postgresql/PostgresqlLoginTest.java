package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import fiador.changes.steps.CreateUser;
import fiador.changes.steps.Step;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.live.SettleRun;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A server that asks for secrets takes the right one and no other. */
class PostgresqlLoginTest {
  private static final String SECRET = "op'en \\ sesame ü";

  private final PostgresqlServer server = new PostgresqlServer();
  private final Login admin = RealPostgresql.login(18);
  private Path rules;
  private String before;

  @BeforeEach
  void aServerThatAsksForSecrets() throws Exception {
    try (Connection connection = RealPostgresql.connect(admin, null);
        Statement sql = connection.createStatement()) {
      try (ResultSet file = sql.executeQuery("show hba_file")) {
        file.next();
        rules = Path.of(file.getString(1));
      }
      before = Files.readString(rules);
      Files.writeString(rules, "host all doorman all scram-sha-256\n" + before);
      sql.execute("select pg_reload_conf()");
    }
    new SettleRun(server, admin, user -> SECRET.toCharArray())
        .carryOut(List.of(new CreateUser("doorman")), new Silent());
  }

  @AfterEach
  void asItWas() throws Exception {
    Files.writeString(rules, before);
    try (Connection connection = RealPostgresql.connect(admin, null);
        Statement sql = connection.createStatement()) {
      sql.execute("select pg_reload_conf()");
      sql.execute("drop role doorman");
    }
  }

  private static final class Silent implements SettleRun.Witness {
    @Override
    public void begins(List<Step> some) {}

    @Override
    public void done(List<Step> some, String sql) {
      assertThat(sql).doesNotContain("sesame");
    }
  }

  @Test
  void theSecretThatAUserWasMadeWithOpens() throws Exception {
    try (Connection connection = server.connect(new Login(admin.url(), "doorman", SECRET), null)) {
      assertThat(connection.isValid(5)).isTrue();
    }
  }

  @Test
  void anotherIsRefusedAndNotRepeated() {
    Throwable refused =
        catchThrowable(
            () -> server.connect(new Login(admin.url(), "doorman", "close sesame"), null));
    assertThat(refused)
        .isInstanceOf(ServerException.class)
        .hasMessageContaining("refused the login doorman; check the name and the password");
    assertThat(refused.getMessage()).doesNotContain("sesame");
  }

  @Test
  void theServerKeepsNoSecretButAVerifier() throws Exception {
    try (Connection connection = RealPostgresql.connect(admin, null);
        Statement sql = connection.createStatement();
        ResultSet kept =
            sql.executeQuery("select rolpassword from pg_authid where rolname = 'doorman'")) {
      kept.next();
      assertThat(kept.getString(1)).startsWith("SCRAM-SHA-256$").doesNotContain("sesame");
    }
  }
}
