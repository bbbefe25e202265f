package fiador.servers;

/**
 * How to reach a server.
 *
 * @param url a JDBC URL, without a secret in it
 * @param user the account's name
 * @param password its secret; never printed
 */
public record Login(String url, String user, String password) {
  /** The same login to another address. */
  public Login at(String otherUrl) {
    return new Login(otherUrl, user, password);
  }

  /** Without the secret, so that no log or message can show it. */
  @Override
  public String toString() {
    return user + " at " + url;
  }
}
