package fiador.files.ledger;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Entries of which each holds the digest of the one before, so that none can be altered, left out
 * or put in without the last digest being another one. An entry is a JSON object on one line whose
 * last field is {@code hash}: SHA-256 over the hash of the entry before, a line feed, and its own
 * text without that field.
 */
public final class Chain {
  /** What comes before the first entry. */
  static final String START = "0".repeat(64);

  private static final Pattern LINKED = Pattern.compile("(.*),\"hash\":\"([0-9a-f]{64})\"}");

  private Chain() {}

  /**
   * What is known of a chain.
   *
   * @param entries how many there are
   * @param review the review they belong to, or null where that cannot be read
   * @param from when the first was made
   * @param to when the last was made
   * @param closed whether the last one closes the review
   * @param people who ran and who decided, each with how that is known
   * @param hash the last digest, which stands for the whole
   * @param problems what is wrong with it; empty when it is whole
   */
  public record Verdict(
      int entries,
      String review,
      String from,
      String to,
      boolean closed,
      List<String> people,
      String hash,
      List<String> problems) {}

  /** Links an entry to the one before: {@code text} is a JSON object without a hash. */
  static String linked(String before, String text) {
    String hash = Digests.of(before + "\n" + text);
    return text.substring(0, text.length() - 1) + ",\"hash\":\"" + hash + "\"}";
  }

  /** The digest of a linked entry. */
  static String hash(String line) {
    Matcher matcher = LINKED.matcher(line);
    return matcher.matches() ? matcher.group(2) : START;
  }

  /** Checks a chain. Cost: its length. */
  public static Verdict check(List<String> lines) {
    List<String> problems = new ArrayList<>();
    ObjectMapper json = new ObjectMapper();
    String before = START;
    String review = null;
    String from = null;
    String to = null;
    boolean closed = false;
    Set<String> runners = new LinkedHashSet<>();
    Set<String> deciders = new LinkedHashSet<>();
    for (int i = 0; i < lines.size(); i++) {
      String at = "line " + (i + 1) + ": ";
      Matcher matcher = LINKED.matcher(lines.get(i));
      if (!matcher.matches()) {
        problems.add(at + "this is no entry with a hash at its end");
        break;
      }
      String text = matcher.group(1) + "}";
      if (!Digests.of(before + "\n" + text).equals(matcher.group(2))) {
        problems.add(
            at
                + "it was altered, or the entry before it was altered, taken out or put in; what"
                + " follows cannot be trusted");
        break;
      }
      before = matcher.group(2);
      try {
        JsonNode entry = json.readTree(text);
        String name = entry.path("review").asText();
        review = review == null ? name : review;
        from = from == null ? entry.path("at").asText() : from;
        to = entry.path("at").asText();
        runners.add(entry.path("run_by").asText());
        entry.path("decisions").forEach(one -> deciders.add(one.path("reviewer").asText()));
        closed = entry.path("what").asText().equals("closed");
        if (!name.equals(review)) {
          problems.add(at + "it is of another review, " + name);
        } else if (entry.path("number").asInt() != i + 1) {
          problems.add(at + "it says it is entry " + entry.path("number").asText());
        }
      } catch (JsonProcessingException malformed) {
        problems.add(at + "it is no JSON object");
        break;
      }
    }
    if (lines.isEmpty()) {
      problems.add("there is no entry in it");
    }
    List<String> people = new ArrayList<>();
    people.add(
        "run by " + String.join(", ", runners) + ": the account of the machine, only claimed");
    if (!deciders.isEmpty()) {
      people.add(
          "decided by " + String.join(", ", deciders) + ": as the answers say, only claimed");
    }
    return new Verdict(lines.size(), review, from, to, closed, people, before, problems);
  }
}
