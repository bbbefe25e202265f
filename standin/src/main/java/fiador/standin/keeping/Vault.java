package fiador.standin.keeping;

import fiador.standin.estate.MistakeException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * Seals secrets that must be said to other servers, so that the journal shows none. The key lies in
 * a file of its own: whoever has the journal alone has nothing.
 */
public final class Vault {
  private static final String KEY = "key";
  private static final int KEY_BYTES = 32;
  private static final int NONCE_BYTES = 12;
  private static final int TAG_BITS = 128;
  private static final SecureRandom RANDOM = new SecureRandom();

  private final SecretKeySpec key;

  private Vault(byte[] key) {
    this.key = new SecretKeySpec(key, "AES");
  }

  /** The one of a folder that nobody else has open, with a key that is made the first time. */
  public static Vault in(Path folder) throws IOException {
    Path file = folder.resolve(KEY);
    if (!Files.exists(file)) {
      Files.createFile(file, ownerOnly(folder));
    }
    if (Files.size(file) == 0) {
      // fresh, or whoever made it was killed before anything was sealed
      byte[] fresh = new byte[KEY_BYTES];
      RANDOM.nextBytes(fresh);
      Files.write(file, fresh, StandardOpenOption.WRITE, StandardOpenOption.SYNC);
    }
    byte[] key = Files.readAllBytes(file);
    if (key.length != KEY_BYTES) {
      throw new IOException(file + " is no key of a stand-in");
    }
    return new Vault(key);
  }

  private static FileAttribute<?>[] ownerOnly(Path folder) {
    return folder.getFileSystem().supportedFileAttributeViews().contains("posix")
        ? new FileAttribute<?>[] {
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"))
        }
        : new FileAttribute<?>[0];
  }

  /** A secret, sealed. */
  public String sealed(String secret) {
    byte[] nonce = new byte[NONCE_BYTES];
    RANDOM.nextBytes(nonce);
    try {
      byte[] body =
          cipher(Cipher.ENCRYPT_MODE, nonce).doFinal(secret.getBytes(StandardCharsets.UTF_8));
      byte[] whole = Arrays.copyOf(nonce, NONCE_BYTES + body.length);
      System.arraycopy(body, 0, whole, NONCE_BYTES, body.length);
      return Base64.getEncoder().encodeToString(whole);
    } catch (GeneralSecurityException missing) {
      throw new IllegalStateException(missing);
    }
  }

  /**
   * The secret again.
   *
   * @throws MistakeException when it was sealed with another key, or was changed
   */
  public String opened(String sealed) throws MistakeException {
    try {
      byte[] whole = Base64.getDecoder().decode(sealed);
      byte[] nonce = Arrays.copyOf(whole, NONCE_BYTES);
      byte[] body = Arrays.copyOfRange(whole, NONCE_BYTES, Math.max(NONCE_BYTES, whole.length));
      return new String(cipher(Cipher.DECRYPT_MODE, nonce).doFinal(body), StandardCharsets.UTF_8);
    } catch (GeneralSecurityException | IllegalArgumentException wrong) {
      throw new MistakeException("a secret was not sealed with the key of this stand-in");
    }
  }

  private Cipher cipher(int mode, byte[] nonce) throws GeneralSecurityException {
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
    return cipher;
  }
}
