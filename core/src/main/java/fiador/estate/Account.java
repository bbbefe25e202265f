package fiador.estate;

import java.time.Instant;
import java.util.Map;

/**
 * Facts about an account that are rarely set.
 *
 * @param disabled it cannot log in although it is a user
 * @param until when its secret or the account itself ends, or null
 * @param comment what the server keeps as its description, or null
 * @param switching whether the roles it is given count only after switching, where that is a matter
 *     of the member
 * @param secret how it proves who it is
 * @param secretSince when its secret was set, in whole seconds; null where that is not known
 * @param limits what the server keeps it to
 */
public record Account(
    boolean disabled,
    Instant until,
    String comment,
    boolean switching,
    Secret secret,
    Instant secretSince,
    Map<AccountLimit, Integer> limits) {
  /** One that is kept to nothing. */
  public Account(
      boolean disabled,
      Instant until,
      String comment,
      boolean switching,
      Secret secret,
      Instant secretSince) {
    this(disabled, until, comment, switching, secret, secretSince, Map.of());
  }

  /** One of whose secret it is not known when it was set. */
  public Account(
      boolean disabled, Instant until, String comment, boolean switching, Secret secret) {
    this(disabled, until, comment, switching, secret, null);
  }

  /** One whose roles count at once, and of whose secret nothing is known. */
  public Account(boolean disabled, Instant until, String comment) {
    this(disabled, until, comment, false, Secret.UNKNOWN);
  }

  /** An account of which nothing special is known. */
  public static final Account PLAIN = new Account(false, null, null);

  /** The same, able to log in or not, until then. */
  public Account with(boolean nowDisabled, Instant nowUntil) {
    return new Account(nowDisabled, nowUntil, comment, switching, secret, secretSince, limits);
  }

  /** The same kept to other limits. */
  public Account withLimits(Map<AccountLimit, Integer> others) {
    return new Account(disabled, until, comment, switching, secret, secretSince, others);
  }

  /** The same with a secret set then. */
  public Account withSecretSince(Instant then) {
    return new Account(disabled, until, comment, switching, secret, then, limits);
  }

  /** Whether nothing special is known. */
  boolean isPlain() {
    return !disabled
        && until == null
        && comment == null
        && !switching
        && secret == Secret.UNKNOWN
        && secretSince == null
        && limits.isEmpty();
  }
}
