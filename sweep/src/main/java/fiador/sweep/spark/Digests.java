package fiador.sweep.spark;

import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.Path;

/** SHA-256. */
final class Digests {
  private Digests() {}

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException(never);
    }
  }

  /** That of a file, in hexadecimal digits. */
  static String of(Path file, Configuration configuration) throws IOException {
    MessageDigest sha = sha256();
    byte[] buffer = new byte[1 << 16];
    try (InputStream in = file.getFileSystem(configuration).open(file, 1 << 16)) {
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        sha.update(buffer, 0, read);
      }
    }
    return HexFormat.of().formatHex(sha.digest());
  }

  /** That of a text. */
  static String of(String text) {
    byte[] bytes = text.getBytes(java.nio.charset.StandardCharsets.UTF_8);
    return HexFormat.of().formatHex(sha256().digest(bytes));
  }
}
