package fiador.estate;

import java.time.Instant;

/**
 * Facts about an account that are rarely set.
 *
 * @param disabled it cannot log in although it is a user
 * @param until when its secret or the account itself ends, or null
 * @param comment what the server keeps as its description, or null
 * @param switching whether the roles it is given count only after switching, where that is a matter
 *     of the member
 */
public record Account(boolean disabled, Instant until, String comment, boolean switching) {
  /** One whose roles count at once. */
  public Account(boolean disabled, Instant until, String comment) {
    this(disabled, until, comment, false);
  }

  /** An account of which nothing special is known. */
  public static final Account PLAIN = new Account(false, null, null);

  /** Whether nothing special is known. */
  boolean isPlain() {
    return !disabled && until == null && comment == null && !switching;
  }
}
