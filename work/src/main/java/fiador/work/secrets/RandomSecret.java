package fiador.work.secrets;

import java.security.SecureRandom;

/** Secrets that nobody chose. */
public final class RandomSecret {
  /** Letters and digits that nobody mistakes for one another. */
  private static final String LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZabcdefghijkmnpqrstuvwxyz23456789";

  /** More than 128 bits. */
  private static final int LENGTH = 24;

  private static final SecureRandom RANDOM = new SecureRandom();

  private RandomSecret() {}

  /** A fresh one; the caller wipes it. */
  public static char[] fresh() {
    char[] secret = new char[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      secret[i] = LETTERS.charAt(RANDOM.nextInt(LETTERS.length()));
    }
    return secret;
  }
}
