package fiador.standin.serving;

import fiador.standin.deeds.Secrets;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.jspecify.annotations.Nullable;

/**
 * Looks at secrets. One that was right is known again at once, by a digest under a key that lives
 * as long as this process and is kept nowhere.
 */
final class Known {
  private static final String ALGORITHM = "HmacSHA256";
  private static final int KEY = 32;
  private static final int MOST = 10_000;

  /** Checked where a user has no secret, so that it takes as long to be told so. */
  private static final String NOBODY = Secrets.hash(new char[] {'-'});

  private final byte[] key = new byte[KEY];
  private final Map<String, byte[]> right = new ConcurrentHashMap<>();

  Known() {
    new SecureRandom().nextBytes(key);
  }

  /**
   * Whether it is the secret.
   *
   * @param hashed what it is checked against; null where there is none
   */
  boolean isRight(String secret, @Nullable String hashed) {
    if (hashed == null) {
      // looked at all the same, or the time it takes would say who is there
      boolean any = Secrets.matches(secret.toCharArray(), NOBODY);
      return any && NOBODY.isEmpty();
    }
    byte[] digest = digest(secret);
    byte[] before = right.get(hashed);
    if (before != null && MessageDigest.isEqual(before, digest)) {
      return true;
    }
    boolean matches = Secrets.matches(secret.toCharArray(), hashed);
    if (matches && right.size() < MOST) {
      right.put(hashed, digest);
    }
    return matches;
  }

  private byte[] digest(String secret) {
    try {
      Mac mac = Mac.getInstance(ALGORITHM);
      mac.init(new SecretKeySpec(key, ALGORITHM));
      return mac.doFinal(secret.getBytes(StandardCharsets.UTF_8));
    } catch (GeneralSecurityException missing) {
      throw new IllegalStateException(missing);
    }
  }
}
