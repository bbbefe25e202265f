package fiador.servers.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.sql.SQLException;
import javax.net.ssl.SSLHandshakeException;
import org.junit.jupiter.api.Test;

/** Each way not to get a connection has its own words. */
class UnreachableTest {
  private static final Login LOGIN = new Login("jdbc:postgresql://db.example/x", "ines", "");

  private static String why(Throwable cause) {
    return Unreachable.why(LOGIN, new SQLException("it failed", "08001", cause));
  }

  @Test
  void whatIsWrongIsSaidFirst() {
    assertThat(why(new UnknownHostException("db.example"))).contains("no host of that name");
    assertThat(why(new ConnectException("refused"))).contains("nothing listens there");
    assertThat(why(new SocketTimeoutException("late"))).contains("did not answer within");
    assertThat(why(new NoRouteToHostException("far"))).contains("no way to that host");
    assertThat(why(new SSLHandshakeException("no"))).contains("could not prove who it is");
    assertThat(why(new RuntimeException(new ConnectException()))).contains("nothing listens");
    assertThat(why(null)).contains("is it running");
  }

  @Test
  void aSecretThatWasNotGivenIsNoWrongOne() {
    SQLException empty =
        new SQLException("SCRAM authentication, but the password is an empty string.", "08004");
    assertThat(Unreachable.why(LOGIN, empty)).contains("none was given", "password: ${VARIABLE}");
    assertThat(Unreachable.refused(LOGIN)).contains("none was given");
    assertThat(Unreachable.refused(LOGIN.as("ines", "secret")))
        .contains("check the name and the password")
        .doesNotContain("none was given");
  }
}
