package fiador.files.ledger;

import fiador.files.Kept;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.security.spec.X509EncodedKeySpec;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A key with which the evidence of a review is signed: Ed25519 (RFC 8032), by the Java runtime. Who
 * can write evidence and ledger can make both anew; who has not the key cannot sign them.
 *
 * @param own the private part
 * @param shown the public part, as a charter writes it
 */
public record ReviewKey(PrivateKey own, String shown) {
  private static final String ALGORITHM = "Ed25519";
  private static final String MARK = "fiador review key\n";

  private static final Pattern SIGNED =
      Pattern.compile(
          "\\{\"signed_with\":\"([A-Za-z0-9+/=]+)\",\"signature\":\"([A-Za-z0-9+/=]+)\"}");

  /** Never with the private part. */
  @Override
  public String toString() {
    return shown;
  }

  /**
   * Makes a key and writes it into a file that nobody else may read.
   *
   * @throws LedgerException when there is such a file already
   */
  public static ReviewKey make(Path file) throws IOException {
    try {
      KeyPair pair = KeyPairGenerator.getInstance(ALGORITHM).generateKeyPair();
      Base64.Encoder text = Base64.getEncoder();
      String shown = text.encodeToString(pair.getPublic().getEncoded());
      String own = text.encodeToString(pair.getPrivate().getEncoded());
      Kept.folder(file.toAbsolutePath().getParent());
      if (Files.exists(file)) {
        throw new LedgerException(file + " is there already; a key is never written over");
      }
      Files.createFile(file, Kept.file());
      Files.writeString(file, MARK + own + "\n" + shown + "\n", StandardOpenOption.WRITE);
      return new ReviewKey(pair.getPrivate(), shown);
    } catch (GeneralSecurityException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /**
   * Reads a key.
   *
   * @throws LedgerException when the file holds none
   */
  public static ReviewKey read(Path file) throws IOException {
    List<String> lines = Files.readAllLines(file);
    try {
      if (lines.size() != 3 || !MARK.equals(lines.get(0) + "\n")) {
        throw new LedgerException(file + " is no key; fiador review key makes one");
      }
      byte[] own = Base64.getDecoder().decode(lines.get(1));
      PrivateKey key =
          KeyFactory.getInstance(ALGORITHM).generatePrivate(new PKCS8EncodedKeySpec(own));
      return new ReviewKey(key, lines.get(2));
    } catch (GeneralSecurityException | IllegalArgumentException damaged) {
      throw new LedgerException(file + " is damaged: it holds no key of Ed25519", damaged);
    }
  }

  /** Whether a text is the public part of a key. */
  public static boolean isPublic(String text) {
    return publicKey(text) != null;
  }

  private static PublicKey publicKey(String shown) {
    try {
      byte[] bytes = Base64.getDecoder().decode(shown);
      return KeyFactory.getInstance(ALGORITHM).generatePublic(new X509EncodedKeySpec(bytes));
    } catch (GeneralSecurityException | IllegalArgumentException none) {
      return null;
    }
  }

  /** The line that signs evidence which ends in that digest. */
  public String signed(String review, String digest) {
    try {
      Signature signature = Signature.getInstance(ALGORITHM);
      signature.initSign(own);
      signature.update(what(review, digest));
      String text = Base64.getEncoder().encodeToString(signature.sign());
      return "{\"signed_with\":\"" + shown + "\",\"signature\":\"" + text + "\"}";
    } catch (GeneralSecurityException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /** Whether a line signs something, rightly or not. */
  public static boolean isSignature(String line) {
    return SIGNED.matcher(line).matches();
  }

  /**
   * Which of some known keys signed evidence that ends in that digest.
   *
   * @param line the line that signs it
   * @param known the public parts that are trusted
   * @return the public part; null when it was none of them, or signed something else
   */
  public static String signer(String line, String review, String digest, Set<String> known) {
    Matcher signed = SIGNED.matcher(line);
    PublicKey key =
        signed.matches() && known.contains(signed.group(1)) ? publicKey(signed.group(1)) : null;
    if (key == null) {
      return null;
    }
    try {
      Signature signature = Signature.getInstance(ALGORITHM);
      signature.initVerify(key);
      signature.update(what(review, digest));
      return signature.verify(Base64.getDecoder().decode(signed.group(2))) ? signed.group(1) : null;
    } catch (GeneralSecurityException | IllegalArgumentException not) {
      return null;
    }
  }

  private static byte[] what(String review, String digest) {
    return ("fiador review evidence\n" + review + "\n" + digest).getBytes(StandardCharsets.UTF_8);
  }
}
