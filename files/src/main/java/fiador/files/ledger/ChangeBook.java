package fiador.files.ledger;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.StringWriter;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The changes in a ledger: what was run on its servers, by whom, and how each of them ended. */
public final class ChangeBook {
  private static final JsonFactory JSON = new JsonFactory();

  /** What stands before a change's name of which nothing lasts. */
  private static final String REFUSED = "refused ";

  private final Ledger ledger;

  /**
   * A change that was carried out.
   *
   * @param id its number
   * @param what how it came: settle, resume or undo
   * @param by the account of the operating system that ran it
   * @param ended when it came to its end, or null where it was not seen to
   * @param statements what was run, without secrets
   */
  public record Change(
      long id,
      String server,
      String what,
      String by,
      Instant began,
      Instant ended,
      List<String> statements) {
    /** Whether the server refused it, so that nothing of it lasts. */
    public boolean wasRefused() {
      return what.startsWith(REFUSED);
    }
  }

  ChangeBook(Ledger ledger) {
    this.ledger = ledger;
  }

  /**
   * Notes that a change begins.
   *
   * @return its number, for {@link #ended}
   */
  public long begins(String server, String what, String by, Instant began, List<String> statements)
      throws IOException {
    return ledger.inTurn(
        "change_made",
        one -> {
          long id = one.number("select coalesce(max(id), 0) + 1 from change_made");
          one.execute(
              """
              insert into change_made (id, server, what, run_by, began, statements)
              values (?, ?, ?, ?, ?, ?)""",
              id,
              server,
              what,
              by,
              Micros.of(began),
              written(statements));
          return id;
        });
  }

  /** Notes that a change came to its end. */
  public void ended(long id, Instant ended) throws IOException {
    ledger.inTransaction(
        one -> one.execute("update change_made set ended = ? where id = ?", Micros.of(ended), id));
  }

  /** Notes that a change was refused, and that nothing of it lasts. */
  public void refused(long id, Instant ended) throws IOException {
    ledger.inTransaction(
        one ->
            one.execute(
                "update change_made set ended = ?, what = ? || what where id = ?",
                Micros.of(ended),
                REFUSED,
                id));
  }

  /** All changes of a server, the oldest first. */
  public List<Change> of(String server) throws IOException {
    return ledger.inTransaction(
        one ->
            one.list(
                row -> change(server, row),
                """
                select id, what, run_by, began, ended, statements from change_made
                where server = ? order by began, id""",
                server));
  }

  private static Change change(String server, ResultSet row) throws SQLException {
    long ended = row.getLong("ended");
    Instant end = row.wasNull() ? null : Micros.instant(ended);
    return new Change(
        row.getLong("id"),
        server,
        row.getString("what"),
        row.getString("run_by"),
        Micros.instant(row.getLong("began")),
        end,
        statements(row.getString("statements")));
  }

  private static String written(List<String> statements) throws IOException {
    StringWriter text = new StringWriter();
    try (JsonGenerator json = JSON.createGenerator(text)) {
      json.writeArray(statements.toArray(String[]::new), 0, statements.size());
    }
    return text.toString();
  }

  /** As they are kept; ledgers of the first release joined them by a character. */
  private static List<String> statements(String kept) {
    if (!kept.startsWith("[")) {
      return kept.isEmpty() ? List.of() : List.of(kept.split("\u001e", -1));
    }
    // read token by token: binding takes Java longer to begin with than a short command has
    List<String> statements = new ArrayList<>();
    try (JsonParser json = JSON.createParser(kept)) {
      json.nextToken();
      while (json.nextToken() != JsonToken.END_ARRAY) {
        if (json.currentToken() != JsonToken.VALUE_STRING) {
          throw new IOException(
              "no statement stands at " + json.currentLocation().offsetDescription());
        }
        statements.add(json.getText());
      }
    } catch (IOException damaged) {
      throw new IllegalStateException("the ledger has a change that cannot be read", damaged);
    }
    return List.copyOf(statements);
  }
}
