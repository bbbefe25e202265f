package fiador.reviews;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A line of a review: one person, one way to have access, one place; in words that stay.
 *
 * @param key names the line; another one when the facts are others
 * @param reviewer who is asked
 * @param about what it is about
 * @param person whom, as people write it
 * @param may what that lets them do
 * @param through through what
 * @param since since when, as far as it is known; may be empty
 * @param lastUsed when it was last used, as far as that was watched; may be empty
 * @param findings ids of findings that concern it
 * @param facts what exactly is given, one privilege and place each
 * @param whose who that is and as whom else they log in; null where nothing of that is known
 */
public record Line(
    String key,
    String reviewer,
    Entitlement about,
    String person,
    String may,
    String through,
    String since,
    String lastUsed,
    List<String> findings,
    List<String> facts,
    @Nullable String whose) {
  /** Whom it is about, with all that is known of who that is. */
  public String who() {
    return whose == null ? person : person + " (" + whose + ")";
  }

  /**
   * A key that is another one where the facts are others: a number and a little of their digest.
   */
  public static String key(int number, Entitlement about, List<String> facts) {
    try {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      digest.update(about.toString().getBytes(StandardCharsets.UTF_8));
      digest.update(String.join("\n", facts).getBytes(StandardCharsets.UTF_8));
      return number + "-" + HexFormat.of().formatHex(digest.digest(), 0, 2);
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }

  /** The number in the key. */
  public int number() {
    return Integer.parseInt(key.substring(0, key.indexOf('-')));
  }
}
