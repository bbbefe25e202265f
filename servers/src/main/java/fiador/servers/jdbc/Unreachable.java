package fiador.servers.jdbc;

import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.sql.SQLException;
import javax.net.ssl.SSLException;

/** Why there is no connection, what is wrong first. */
public final class Unreachable {
  private static final String NO_SECRET =
      "asks for a secret, and none was given; say password: ${VARIABLE} at the server's entry, and"
          + " set that variable";

  private static final int DEEPEST = 12;

  private Unreachable() {}

  /** What follows "the server", such as "is not known by that name". */
  public static String why(Login login, SQLException refused) {
    String said = String.valueOf(refused.getMessage());
    if (said.contains("password is an empty string") || said.contains("no password was provided")) {
      return NO_SECRET;
    }
    Throwable cause = refused;
    for (int depth = 0; cause != null && depth < DEEPEST; depth++) {
      if (cause instanceof UnknownHostException) {
        return "is not known: there is no host of that name";
      } else if (cause instanceof SSLException) {
        return unproved();
      } else if (cause instanceof SocketTimeoutException) {
        return "did not answer within " + login.transport().connectSeconds() + " s";
      } else if (cause instanceof NoRouteToHostException) {
        return "cannot be reached: there is no way to that host";
      } else if (cause instanceof ConnectException) {
        return "cannot be reached: nothing listens there; is it running, and is the port right?";
      }
      cause = cause.getCause();
    }
    return said.contains("SSL") || said.contains("ssl")
        ? unproved()
        : "cannot be reached; is it running, and is the address right?";
  }

  /** That a login was refused: without a secret, or with one that is not right. */
  public static String refused(Login login) {
    return login.password() == null || login.password().isEmpty()
        ? "refused the login " + login.user() + ", or " + NO_SECRET
        : "refused the login " + login.user() + "; check the name and the password";
  }

  private static String unproved() {
    return "could not prove who it is, so no secret was sent: say tls_authority: FILE with its"
        + " authority's certificate, or tls: unverified if that is accepted";
  }
}
