package fiador.standin.deeds;

import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.HexFormat;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;

/** Secrets as they are kept: salted, and slow to try. */
public final class Secrets {
  private static final String ALGORITHM = "PBKDF2WithHmacSHA256";
  private static final int ROUNDS = 120_000;
  private static final int BITS = 256;
  private static final int SALT = 16;

  /** In bytes. */
  private static final int GUESSES = 12;

  private static final SecureRandom RANDOM = new SecureRandom();

  private Secrets() {}

  /** A text nobody can guess, of digits and capitals. */
  public static String random() {
    byte[] bytes = new byte[GUESSES];
    RANDOM.nextBytes(bytes);
    return HexFormat.of().withUpperCase().formatHex(bytes);
  }

  /** What a secret is checked against. Cost: tens of milliseconds. */
  public static String hash(char[] secret) {
    byte[] salt = new byte[SALT];
    RANDOM.nextBytes(salt);
    return ROUNDS + "." + text(salt) + "." + text(derive(secret, salt, ROUNDS));
  }

  /** Whether it is that secret. Cost: the same, whether it is or not. */
  public static boolean matches(char[] secret, String hashed) {
    String[] parts = hashed.split("\\.", 3);
    byte[] wanted = Base64.getUrlDecoder().decode(parts[2]);
    byte[] salt = Base64.getUrlDecoder().decode(parts[1]);
    return MessageDigest.isEqual(wanted, derive(secret, salt, Integer.parseInt(parts[0])));
  }

  private static String text(byte[] bytes) {
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }

  private static byte[] derive(char[] secret, byte[] salt, int rounds) {
    // the function takes no empty secret, and nothing else is a single null character
    char[] some = secret.length == 0 ? new char[1] : secret;
    PBEKeySpec key = new PBEKeySpec(some, salt, rounds, BITS);
    try {
      return SecretKeyFactory.getInstance(ALGORITHM).generateSecret(key).getEncoded();
    } catch (GeneralSecurityException missing) {
      throw new IllegalStateException(missing);
    } finally {
      key.clearPassword();
    }
  }
}
