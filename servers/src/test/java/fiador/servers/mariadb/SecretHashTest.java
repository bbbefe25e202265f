package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.CreateUser;
import fiador.servers.Carrying;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.live.SettleRun;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A new account's secret opens it, and stands in no log of the server. */
final class SecretHashTest {
  private static final MariadbServer SERVER = new MariadbServer();

  /** Other tests leave accounts, and rights of everybody, on the server they share. */
  @BeforeAll
  static void alone() throws Exception {
    RandomMariadb.clear(RealMariadb.login());
  }

  /** The vectors are those of the server's manual. */
  @Test
  void hashesAreThoseTheServerKeeps() {
    assertThat(SecretHash.ed25519("secret".toCharArray()))
        .isEqualTo("ed25519 USING 'ZIgUREUg5PVgQ6LskhXmO+eZLS0nC8be6HPjYWR4YJY'");
    assertThat(SecretHash.nativeHash("mariadb".toCharArray()))
        .isEqualTo("mysql_native_password USING '*54958E764CE10E50764C2EECBB71D01F08549980'");
  }

  @Test
  void theSecretOpensTheAccountAndTheLogHasItNot() throws Exception {
    Login root = RealMariadb.login();
    String secret = "b\\ack'Qzxj \"quote\" ünïcödé";
    try (Connection admin = SERVER.connect(root, null);
        Statement ask = admin.createStatement()) {
      ask.execute("SET GLOBAL log_output = 'TABLE'");
      ask.execute("SET GLOBAL general_log = ON");
      ask.execute("SET GLOBAL sql_mode = 'NO_BACKSLASH_ESCAPES'");
      try {
        new SettleRun(SERVER, root, user -> secret.toCharArray())
            .carryOut(List.of(new CreateUser("hushed@%")), new Carrying.Nobody());
      } finally {
        ask.execute("SET GLOBAL general_log = OFF");
        ask.execute("SET GLOBAL sql_mode = 'STRICT_TRANS_TABLES'");
      }
      SERVER.connect(root.as("hushed", secret), null).close();
      assertThatThrownBy(() -> SERVER.connect(root.as("hushed", "else"), null))
          .isInstanceOf(ServerException.class);
      try (ResultSet log =
          ask.executeQuery(
              "SELECT count(*), sum(argument LIKE '%hushed%'), sum(argument LIKE '%Qzxj%')"
                  + " FROM mysql.general_log WHERE argument NOT LIKE '%general_log%'")) {
        log.next();
        assertThat(log.getInt(2)).isPositive();
        assertThat(log.getInt(3)).isZero();
      }
      ask.execute("DROP USER hushed@'%'");
    }
  }
}
