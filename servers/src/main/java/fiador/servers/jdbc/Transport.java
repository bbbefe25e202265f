package fiador.servers.jdbc;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * How a connection is protected, and how long anything may take.
 *
 * @param tls how much of the other side is checked
 * @param authority a file with the certificates that are trusted; empty for the Java runtime's own
 * @param connectSeconds how long connecting may take
 * @param statementSeconds how long one statement may take
 * @param lockSeconds how long a statement waits for a lock before it is tried again
 */
public record Transport(
    Tls tls, String authority, int connectSeconds, int statementSeconds, int lockSeconds) {
  /** What is taken where nobody says anything. */
  public static final Transport USUAL = new Transport(Tls.UNSAID, "", 15, 600, 5);

  private static final int SPARE_SECONDS = 30;

  /** How much of the other side is checked before a secret is sent. */
  public enum Tls {
    /** Nobody said: nothing on this machine itself, all of it anywhere else. */
    UNSAID,
    /** Encrypted; the certificate is from a trusted authority and made out for that host. */
    VERIFY_FULL,
    /** Encrypted; the certificate is from a trusted authority. */
    VERIFY_CA,
    /** Encrypted, with nobody knows whom. */
    UNVERIFIED,
    /** Not encrypted. */
    OFF;

    /** The word a charter uses. */
    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The words that may be said. */
    public static List<String> words() {
      return Arrays.stream(values()).filter(tls -> tls != UNSAID).map(Tls::word).toList();
    }

    /** What a word says; an empty one says nothing; null for a word that is not known. */
    public static Tls of(String word) {
      if (word.isEmpty()) {
        return UNSAID;
      }
      return Arrays.stream(values())
          .filter(tls -> tls != UNSAID && tls.word().equals(word))
          .findFirst()
          .orElse(null);
    }
  }

  /** What is done, once it is known whether the server is on this machine. */
  public Tls towards(boolean local) {
    return tls == Tls.UNSAID && !local ? Tls.VERIFY_FULL : tls;
  }

  /**
   * How long to wait for any answer at all: a dead line is noticed after the server's own limit.
   */
  public int socketSeconds() {
    return statementSeconds + SPARE_SECONDS;
  }
}
