package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.servers.jdbc.Login;
import fiador.servers.live.SecretRun;
import fiador.servers.live.SecretRun.Way;
import fiador.servers.live.SettleRun;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A new secret is kept as SCRAM keeps it, whatever the server's setting says. */
class PostgresqlSecretsTest {
  private final PostgresqlServer server = new PostgresqlServer();
  private final Login admin = RealPostgresql.login(18);
  private final List<String> done = new ArrayList<>();

  @BeforeEach
  void twoAccounts() throws Exception {
    run("create role \"odd \"\"one\" login", "create role plain login password 'x'");
  }

  @AfterEach
  void gone() throws Exception {
    run("drop role \"odd \"\"one\"", "drop role plain");
  }

  private void run(String... statements) throws Exception {
    try (Connection connection = RealPostgresql.connect(admin, null);
        Statement sql = connection.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    }
  }

  private String kept(String role) throws Exception {
    try (Connection connection = RealPostgresql.connect(admin, null);
        Statement sql = connection.createStatement();
        ResultSet row =
            sql.executeQuery("select rolpassword from pg_authid where rolname = '" + role + "'")) {
      row.next();
      return row.getString(1);
    }
  }

  private void change(Way way, SettleRun.Secrets secrets, String... accounts) throws Exception {
    new SecretRun(server, admin).change(List.of(accounts), way, secrets, done::add);
  }

  @Test
  void eachAccountGetsItsOwnVerifier() throws Exception {
    String before = kept("plain");
    char[] secret = "sé'cret".toCharArray();
    change(Way.REPLACES, account -> secret, "odd \"one");
    change(Way.REPLACES, account -> "other".toCharArray(), "plain");
    assertThat(done).containsExactly("odd \"one", "plain");
    assertThat(kept("odd \"one")).startsWith("SCRAM-SHA-256$").doesNotContain("cret");
    assertThat(kept("plain")).startsWith("SCRAM-SHA-256$").isNotEqualTo(before);
    assertThat(secret).as("wiped").containsOnly('\0');
  }

  @Test
  void aRefusalNeitherShowsTheStatementNorTouchesTheRest() {
    assertThatThrownBy(
            () -> change(Way.REPLACES, account -> "s3cret".toCharArray(), "nobody", "plain"))
        .hasMessageContaining("SQL state 42704")
        .hasMessageNotContaining("SCRAM")
        .hasNoCause();
    assertThat(done).isEmpty();
  }

  @Test
  void twoSideBySideAreNotPromised() {
    assertThatThrownBy(() -> change(Way.KEEPS_NEWEST, account -> new char[0], "plain"))
        .hasMessage("postgresql keeps one secret of an account, so none can stay beside a new one");
  }
}
