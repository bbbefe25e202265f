package fiador.files.ledger;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** Names things by what is in them: SHA-256, in hexadecimal. */
final class Digests {
  private Digests() {}

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }

  static String hex(byte[] digest) {
    return HexFormat.of().formatHex(digest);
  }

  static String of(String text) {
    return hex(sha256().digest(text.getBytes(StandardCharsets.UTF_8)));
  }
}
