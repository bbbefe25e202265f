package fiador.servers.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.servers.Servers;
import fiador.servers.hsqldb.HsqldbServer;
import fiador.servers.jdbc.Transport.Tls;
import fiador.servers.kind.Server;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;

/** Addresses hide what is secret and let nothing in; a secret goes to nobody who is not known. */
final class AddressTest {
  private static final List<Server> KINDS =
      List.of(new PostgresqlServer(), new MariadbServer(), new HsqldbServer());

  private static Login to(String url, Tls tls, int seconds) {
    return new Login(url, "u", "s3cret", new Transport(tls, "", seconds, seconds, seconds), "u");
  }

  @Test
  void secretsInAnAddressAreNotShown() {
    for (String url :
        List.of(
            "jdbc:postgresql://h/d?user=u&password=s3cret",
            "jdbc:postgresql://u:s3cret@h/d",
            "jdbc:mariadb://h/?trustStorePassword=s3cret&x=1",
            "jdbc:hsqldb:file:/x;crypt_key=s3cret;ifexists=true")) {
      assertThat(Address.of(url).shown()).doesNotContain("s3cret").contains("(hidden)");
      assertThat(Address.of(url).holdsSecret()).isTrue();
      assertThat(new Login(url, "u", "p").toString()).doesNotContain("s3cret");
    }
    assertThat(Address.of("jdbc:postgresql://h/d?ssl=true").holdsSecret()).isFalse();
    assertThat(Address.of("jdbc:postgresql://h/d?sslkey=me.pk8").holdsSecret()).isFalse();
  }

  @Test
  void parametersThatLoadOrWriteSomethingAreRefusedByEveryKind() {
    for (String url :
        List.of(
            "jdbc:postgresql://127.0.0.1:1/d?socketFactory=evil.Factory",
            "jdbc:postgresql://127.0.0.1:1/d?options=-csearch_path%3Devil",
            "jdbc:postgresql://127.0.0.1:1/d?loggerFile=/tmp/x",
            "jdbc:mariadb://127.0.0.1:1/?allowLocalInfile=true",
            "jdbc:mariadb://127.0.0.1:1/?sessionVariables=sql_mode=ANSI",
            "jdbc:hsqldb:mem:x;hsqldb.method_class_names=java.lang.System.*",
            "jdbc:postgresql://127.0.0.1:1/d?password=s3cret")) {
      Server server = Servers.ofUrl(url).orElseThrow();
      assertThatThrownBy(() -> server.connect(to(url, Tls.UNSAID, 1), null))
          .isInstanceOf(ServerException.class)
          .hasMessageMatching("(?s).*(is not allowed|there is a secret).*")
          .hasMessageNotContainingAny("s3cret");
    }
  }

  @Test
  void onlyThisMachineIsLocal() {
    for (String local :
        List.of(
            "jdbc:postgresql://localhost/d",
            "jdbc:postgresql://127.0.0.1:5432,[::1]:5432/d",
            "jdbc:postgresql:d",
            "jdbc:mariadb://127.1.2.3/",
            "jdbc:hsqldb:file://shared/x",
            "jdbc:hsqldb:mem:x")) {
      assertThat(Address.of(local).isLocal()).as(local).isTrue();
    }
    for (String away :
        List.of(
            "jdbc:postgresql://localhost.evil.example/d",
            "jdbc:postgresql://127.0.0.1,db.example/d",
            "jdbc:mariadb://127.0.0.1.example/",
            "jdbc:mariadb:loadbalance://address=(host=db.example)/",
            "jdbc:hsqldb:hsql://db.example/x")) {
      assertThat(Address.of(away).isLocal()).as(away).isFalse();
    }
    assertThat(Transport.USUAL.towards(false)).isEqualTo(Tls.VERIFY_FULL);
    assertThat(Transport.USUAL.towards(true)).isEqualTo(Tls.UNSAID);
    assertThat(Address.of("jdbc:x").parameters()).isEmpty();
    assertThat(Tls.words()).containsExactly("verify-full", "verify-ca", "unverified", "off");
  }

  @Test
  void noSecretIsSentToOneWhoCannotSayWhoHeIs() {
    for (Login login : List.of(RealPostgresql.login(18), RealMariadb.login())) {
      Server server = Servers.ofUrl(login.url()).orElseThrow();
      assertThatThrownBy(() -> server.connect(to(login.url(), Tls.VERIFY_FULL, 10), null))
          .isInstanceOf(ServerException.class)
          .hasMessageContaining("no secret was sent");
    }
    assertThatThrownBy(
            () -> KINDS.get(2).connect(to("jdbc:hsqldb:hsql://db.invalid/x", Tls.UNSAID, 1), null))
        .isInstanceOf(ServerException.class)
        .hasMessageContaining("would not be encrypted");
  }

  @Test
  void aServerThatNeverAnswersIsGivenUp() throws Exception {
    try (ServerSocket silent = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
      for (String url :
          List.of(
              "jdbc:postgresql://127.0.0.1:%d/d",
              "jdbc:mariadb://127.0.0.1:%d/", "jdbc:hsqldb:hsql://127.0.0.1:%d/x")) {
        Login login = to(url.formatted(silent.getLocalPort()), Tls.UNSAID, 2);
        Server server = Servers.ofUrl(login.url()).orElseThrow();
        Assertions.assertTimeoutPreemptively(
            Duration.ofSeconds(40),
            () ->
                assertThatThrownBy(() -> server.connect(login, null))
                    .as(url)
                    .isInstanceOf(ServerException.class));
      }
    }
    assertThat(Set.copyOf(KINDS)).hasSize(3);
  }

  @Test
  void whereAServerIsReachedHasAPortAndNoBrackets() {
    assertThat(Address.of("jdbc:postgresql://[::1]:5433,Db.Box/x?ssl=on").reached(5432))
        .containsExactly("::1:5433", "db.box:5432");
    assertThat(Address.of("jdbc:mariadb://box:3307/").reached(3306)).containsExactly("box:3307");
    assertThat(Address.of("jdbc:postgresql:///x").reached(5432)).containsExactly("localhost:5432");
    assertThat(Address.of("jdbc:hsqldb:file:/srv//db").reached(0)).isEmpty();
  }
}
