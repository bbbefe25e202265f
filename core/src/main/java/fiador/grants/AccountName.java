package fiador.grants;

/**
 * An account as {@code name@host} on servers that tell accounts of one name apart by the host they
 * log in from.
 *
 * @param user the name, empty for the anonymous account
 * @param host a host name, an address, an address with a mask, or a pattern of either
 */
public record AccountName(String user, String host) {
  /** What a written account means; without a host it is any host. A host holds no {@code @}. */
  public static AccountName of(String written) {
    int at = written.lastIndexOf('@');
    return at < 0
        ? new AccountName(written, "%")
        : new AccountName(written.substring(0, at), written.substring(at + 1));
  }

  /** Whether it is the account of everybody who has none. */
  public boolean isAnonymous() {
    return user.isEmpty();
  }

  @Override
  public String toString() {
    return user + "@" + host;
  }
}
