package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.Account;
import fiador.grants.Access;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.live.SecretRun;
import fiador.servers.live.SecretRun.Way;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** An account's secrets: one in the place of another, two side by side, and the older one ended. */
class MariadbSecretsTest {
  private static final MariadbServer SERVER = new MariadbServer();
  private final Login root = RealMariadb.login();

  @BeforeEach
  void anAccountWithASecret() throws Exception {
    RandomMariadb.clear(root);
    run("CREATE USER sec@'%' IDENTIFIED BY 'first'");
  }

  private void run(String... statements) throws Exception {
    try (Connection admin = SERVER.connect(root, null);
        Statement sql = admin.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    }
  }

  private void change(Way way, String secret) throws ServerException {
    List<String> done = new ArrayList<>();
    new SecretRun(SERVER, root)
        .change(List.of("sec@%"), way, account -> secret.toCharArray(), done::add);
    assertThat(done).containsExactly("sec@%");
  }

  private boolean opens(String secret) {
    try {
      SERVER.connect(root.as("sec", secret), null).close();
      return true;
    } catch (Exception refused) {
      return false;
    }
  }

  @Test
  void aNewOneTakesThePlaceOfTheOld() throws Exception {
    change(Way.REPLACES, "se'cond\\ü");
    assertThat(opens("se'cond\\ü")).isTrue();
    assertThat(opens("first")).isFalse();
  }

  @Test
  void twoAreGoodSideBySideUntilTheOlderIsDropped() throws Exception {
    change(Way.KEEPS_NEWEST, "second");
    assertThat(opens("first")).isTrue();
    assertThat(opens("second")).isTrue();
    change(Way.KEEPS_NEWEST, "third");
    assertThat(opens("first")).as("the oldest of three").isFalse();
    assertThat(opens("second")).isTrue();
    assertThat(opens("third")).isTrue();
    change(Way.DROPS_OLDER, "");
    assertThat(opens("second")).isFalse();
    assertThat(opens("third")).isTrue();
    assertThatThrownBy(() -> change(Way.DROPS_OLDER, ""))
        .hasMessage("sec@% has one secret, and no older one to drop");
  }

  @Test
  void anotherProofIsNotEndedByTheWay() throws Exception {
    run(
        "UPDATE mysql.global_priv SET Priv = json_set(Priv, '$.plugin', 'unix_socket')"
            + " WHERE User = 'sec'");
    assertThatThrownBy(() -> change(Way.REPLACES, "second"))
        .hasMessageContaining("sec@% also proves who it is by unix_socket");
  }

  @Test
  void theSurveySaysSinceWhen() throws Exception {
    Access access = SERVER.survey(root, "it", List.of(), Instant.now(), note -> {});
    Account account = access.principals().account(access.principals().named("sec@%"));
    assertThat(Duration.between(account.secretSince(), Instant.now()).abs())
        .isLessThan(Duration.ofMinutes(10));
  }
}
