package fiador.files.ledger;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.PropertyNamingStrategies;
import com.fasterxml.jackson.databind.node.ObjectNode;
import fiador.reviews.Answer;
import fiador.reviews.Decision;
import fiador.reviews.Line;
import fiador.reviews.Review;
import fiador.reviews.Scope;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * Reviews in a ledger. Each is a {@link Chain} of entries: opened, decided, refreshed, closed; what
 * it is at present comes of going through them. Nothing is ever rewritten.
 */
public final class ReviewBook {
  private static final ObjectMapper JSON =
      new ObjectMapper()
          .setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);

  private final Ledger ledger;

  /** Of that ledger. */
  public ReviewBook(Ledger ledger) {
    this.ledger = ledger;
  }

  /**
   * How a review was opened.
   *
   * @param scope what it is about
   * @param by whom it asks where nobody was named
   * @param named reviewers by schema or role
   * @param otherwise whom it asks where there is nobody else, or null
   */
  public record Opened(Scope scope, String by, Map<String, String> named, String otherwise) {}

  /**
   * A review as it is at present.
   *
   * @param opened how it was opened
   * @param entries its entries, as they are kept
   */
  public record Kept(Review review, Opened opened, List<String> entries) {
    /** The digest that stands for all of it. */
    public String hash() {
      return Chain.hash(entries.get(entries.size() - 1));
    }
  }

  /** An answer to a line, to be recorded. */
  public record Said(String line, Answer answer, String remark, String reviewer) {}

  /** The names of all reviews, in the order they were opened. */
  public List<String> names() throws IOException {
    return ledger.inTransaction(
        one -> one.texts("select review from review_entry where number = 1 order by line"));
  }

  /** A review; null where there is none of that name. */
  public Kept read(String name) throws IOException {
    List<String> entries = entries(name);
    if (entries.isEmpty()) {
      return null;
    }
    try {
      Review review = null;
      Opened opened = null;
      for (String line : entries) {
        JsonNode entry = JSON.readTree(line);
        Instant at = Instant.parse(entry.get("at").asText());
        switch (entry.get("what").asText()) {
          case "opened" -> {
            review = new Review(name, entry.get("server").asText(), at, lines(entry));
            opened = JSON.treeToValue(entry.get("asked"), Opened.class);
          }
          case "decided" -> {
            for (JsonNode said : entry.get("decisions")) {
              Said one = JSON.treeToValue(said, Said.class);
              review.decide(
                  one.line(), new Decision(one.answer(), one.remark(), one.reviewer(), at));
            }
          }
          case "refreshed" -> review.refresh(lines(entry));
          default -> review.close(at);
        }
      }
      return new Kept(review, opened, entries);
    } catch (JsonProcessingException | RuntimeException damaged) {
      throw new LedgerException(
          "the review " + name + " is damaged in the ledger: " + damaged.getMessage(), damaged);
    }
  }

  private List<String> entries(String name) throws IOException {
    return ledger.inTransaction(
        one -> one.texts("select line from review_entry where review = ? order by number", name));
  }

  private static List<Line> lines(JsonNode entry) {
    return JSON.convertValue(entry.get("lines"), new TypeReference<List<Line>>() {});
  }

  /** Opens a review with its first entry. */
  public void open(
      String name, String server, Opened opened, List<Line> lines, String runner, Instant at)
      throws IOException {
    ObjectNode entry = JSON.createObjectNode();
    entry.put("server", server);
    entry.set("asked", JSON.valueToTree(opened));
    entry.set("lines", JSON.valueToTree(lines));
    append(name, "opened", entry, runner, at);
  }

  /** Records answers. */
  public void decide(String name, List<Said> said, String source, String runner, Instant at)
      throws IOException {
    ObjectNode entry = JSON.createObjectNode();
    entry.put("source", source);
    entry.set("decisions", JSON.valueToTree(said));
    append(name, "decided", entry, runner, at);
  }

  /** Records that it was asked again with the facts of today. */
  public void refresh(String name, List<Line> lines, String runner, Instant at) throws IOException {
    ObjectNode entry = JSON.createObjectNode();
    entry.set("lines", JSON.valueToTree(lines));
    append(name, "refreshed", entry, runner, at);
  }

  /**
   * Closes it.
   *
   * @param statements what has to be run
   * @param left what is left to be done by hand, by line
   */
  public void close(
      String name, List<String> statements, Map<String, String> left, String runner, Instant at)
      throws IOException {
    ObjectNode entry = JSON.createObjectNode();
    entry.set("statements", JSON.valueToTree(statements));
    entry.set("left", JSON.valueToTree(left));
    append(name, "closed", entry, runner, at);
  }

  private void append(String name, String what, ObjectNode body, String runner, Instant at)
      throws IOException {
    ledger.inTurn(
        "review_entry",
        one -> {
          List<String> before =
              one.texts(
                  "select line from review_entry where review = ? order by number desc limit 1",
                  name);
          int number =
              before.isEmpty() ? 1 : JSON.readTree(before.get(0)).get("number").asInt() + 1;
          ObjectNode entry = JSON.createObjectNode();
          entry.put("number", number);
          entry.put("at", at.toString());
          entry.put("run_by", runner);
          entry.put("review", name);
          entry.put("what", what);
          entry.setAll(body);
          String hash = before.isEmpty() ? Chain.START : Chain.hash(before.get(0));
          String line = Chain.linked(hash, JSON.writeValueAsString(entry));
          return one.execute(
              "insert into review_entry (review, number, line) values (?, ?, ?)",
              name,
              number,
              line);
        });
  }
}
