package fiador.files.journal;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ObjectNode;
import fiador.files.WholeFile;
import fiador.refusal.BadInput;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;

/**
 * A gap as somebody saw it, in a file that others can read and approve: what would be run, and what
 * it would do to people. It names its own digest, so that nothing in it can be changed unnoticed by
 * one who knows the digest.
 *
 * @param server the server's name in the charter
 * @param identity what tells it from others
 * @param by who made the file
 * @param at when, as ISO 8601 in UTC
 * @param statements what would be run, without secrets
 * @param effects what people gain and lose, one line each
 */
public record SavedGap(
    String server,
    String identity,
    String by,
    String at,
    List<String> statements,
    List<String> effects) {
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);
  private static final int VERSION = 1;
  private static final long LARGEST = 256L << 20;

  private ObjectNode content() {
    ObjectNode content = JSON.createObjectNode();
    content.put("fiador_gap", VERSION);
    content.put("server", server);
    content.put("identity", identity);
    content.put("by", by);
    content.put("at", at);
    effects.forEach(content.putArray("effects")::add);
    statements.forEach(content.putArray("statements")::add);
    return content;
  }

  /** The digest of all it says: SHA-256, in hexadecimal digits. */
  public String digest() {
    try {
      byte[] bytes = content().toString().getBytes(StandardCharsets.UTF_8);
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException(never);
    }
  }

  /** Writes it. */
  public void write(Path file) throws IOException {
    ObjectNode content = content();
    content.put("digest", digest());
    WholeFile.write(file, JSON.writeValueAsString(content) + "\n");
  }

  /**
   * Reads one.
   *
   * @throws BadInput if it is none, or not what its digest is of
   */
  public static SavedGap read(Path file) throws BadInput, IOException {
    JsonNode all;
    try {
      if (Files.size(file) > LARGEST) {
        throw new BadInput(file + " is too large for a saved gap");
      }
      all = JSON.readTree(Files.readString(file));
    } catch (NoSuchFileException missing) {
      throw new BadInput("there is no " + file);
    } catch (JsonProcessingException broken) {
      throw new BadInput(file + " is no saved gap: it is not JSON");
    }
    if (all == null || all.path("fiador_gap").asInt() != VERSION) {
      throw new BadInput(file + " is no saved gap that this version can read");
    }
    SavedGap gap =
        new SavedGap(
            all.path("server").asText(),
            all.path("identity").asText(),
            all.path("by").asText(),
            all.path("at").asText(),
            texts(all.path("statements")),
            texts(all.path("effects")));
    if (!gap.digest().equals(all.path("digest").asText())) {
      throw new BadInput(file + " is not as it was saved: its digest is of something else");
    }
    return gap;
  }

  private static List<String> texts(JsonNode array) {
    List<String> texts = new ArrayList<>();
    array.forEach(each -> texts.add(each.asText()));
    return List.copyOf(texts);
  }
}
