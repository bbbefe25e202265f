package fiador.standin.estate;

/** As whom somebody goes into another server. What it is written as shows no secret. */
public final class WayIn {
  private final String as;
  private final String secret;

  /**
   * @param as the account there
   * @param secret that account's
   */
  public WayIn(String as, String secret) {
    this.as = as;
    this.secret = secret;
  }

  /** The account there. */
  public String as() {
    return as;
  }

  /** Its secret, which is for the other server and nobody else. */
  public String secret() {
    return secret;
  }
}
