package fiador.servers.jdbc;

import java.util.Objects;

/**
 * How to reach a server, and whom to believe there.
 *
 * @param url a JDBC URL, without a secret in it
 * @param user the account's name
 * @param password its secret; never printed
 * @param transport how the connection is protected, and for how long things may take
 * @param keeper the account that settles, whose guarded schema is believed besides a superuser's
 */
public record Login(String url, String user, String password, Transport transport, String keeper) {
  /** A login is complete but for the secret, which may be null where none is needed. */
  public Login {
    Objects.requireNonNull(url, "url");
    Objects.requireNonNull(user, "user");
    Objects.requireNonNull(transport, "transport");
    Objects.requireNonNull(keeper, "keeper");
  }

  /** As usual: protected wherever the server is not on this machine. */
  public Login(String url, String user, String password) {
    this(url, user, password, Transport.USUAL, user);
  }

  /** The same login to another address. */
  public Login at(String otherUrl) {
    return new Login(otherUrl, user, password, transport, keeper);
  }

  /** Another account at the same address. */
  public Login as(String otherUser, String otherPassword) {
    return new Login(url, otherUser, otherPassword, transport, keeper);
  }

  /** The address as it may be shown. */
  public String where() {
    return Address.of(url).shown();
  }

  /** What somebody else said, without the secret, should it be repeated there. */
  public String without(String message) {
    return password == null || password.length() < 3 || message == null
        ? message
        : message.replace(password, Address.HIDDEN);
  }

  /** Without the secret, so that no log or message can show it. */
  @Override
  public String toString() {
    return user + " at " + where();
  }
}
