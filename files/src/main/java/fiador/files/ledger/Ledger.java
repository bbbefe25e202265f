package fiador.files.ledger;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import fiador.files.ready.ReadyStates;
import fiador.files.ready.ReadySurveys;
import fiador.files.ready.ReadyTouched;
import fiador.files.survey.ChangedLines;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.history.Touched;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A ledger: surveys over time and the changes that were carried out. Kept in a file (SQLite), or in
 * a PostgreSQL that a team shares. Everything is recorded in one transaction each, so whatever is
 * killed half-way leaves what was there before.
 */
public final class Ledger implements AutoCloseable {
  private static final JsonFactory JSON = new JsonFactory();

  /** What stands before a change's name of which nothing lasts. */
  private static final String REFUSED = "refused ";

  private final LedgerStore store;

  /** The file it is in; null where it is in a database that a team shares. */
  private final Path file;

  private ReadyStates ready;
  private boolean closed;

  /**
   * A survey in the ledger.
   *
   * @param server the server's name
   * @param taken when
   * @param state names what was found: two surveys with the same found the same
   */
  public record Survey(String server, Instant taken, String state) {}

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

  private Ledger(LedgerStore store, Path file) {
    this.store = store;
    this.file = file;
  }

  /**
   * Loads what a ledger in a file needs, so that one is opened quicker afterwards. Cost: what the
   * first opening would.
   */
  public static void load() throws IOException {
    LedgerStore.load();
  }

  /** Opens the ledger in a file, which is made where there is none. */
  public static Ledger open(Path file) throws IOException {
    return new Ledger(LedgerStore.open(file), file);
  }

  /**
   * Opens the ledger in a PostgreSQL database, in the schema that its connections find first.
   *
   * @param url {@code jdbc:postgresql://host/database}
   */
  public static Ledger open(String url, String login, String password) throws IOException {
    return new Ledger(LedgerStore.open(url, login, password), null);
  }

  <T> T inTransaction(Tables.Work<T> work) throws IOException {
    return store.inTransaction(work);
  }

  <T> T inTurn(String table, Tables.Work<T> work) throws IOException {
    return store.inTurn(table, work);
  }

  /**
   * Records a survey. One that found what another found costs a row; one already there costs
   * nothing. Cost: writing the survey out once to name it, and again where it is new.
   *
   * @return whether what it found was not in the ledger yet
   */
  public boolean record(Access access) throws IOException {
    PieceStream naming = new PieceStream((id, bytes, length) -> {});
    write(access, naming);
    String pieces = String.join("\n", naming.ids());
    String kind = access.about().kind() + " " + access.about().version() + "\n";
    String state = Digests.of(kind + pieces);
    boolean isNew =
        inTransaction(
            one -> {
              boolean fresh = one.number("select count(*) from state where id = ?", state) == 0;
              if (fresh) {
                write(
                    access,
                    new PieceStream((id, bytes, length) -> Pieces.keep(one, id, bytes, length)));
                Pieces.keepState(one, state, pieces);
              }
              one.execute(
                  """
              insert into survey (server, taken, head, state) values (?, ?, ?, ?)
              on conflict do nothing""",
                  access.about().server(),
                  micros(access.about().taken()),
                  naming.head(),
                  state);
              return fresh;
            });
    keepTouched(access);
    return isNew;
  }

  private static void write(Access access, PieceStream pieces) throws IOException {
    try (pieces) {
      SurveyWriter.write(access, pieces);
    }
  }

  /** The servers it knows, by name. */
  public List<String> servers() throws IOException {
    return inTransaction(one -> one.texts("select distinct server from survey order by server"));
  }

  /** All surveys of a server, the oldest first. */
  public List<Survey> surveys(String server) throws IOException {
    return inTransaction(
        one ->
            one.list(
                row -> new Survey(server, instant(row.getLong(1)), row.getString(2)),
                "select taken, state from survey where server = ? order by taken",
                server));
  }

  /**
   * A survey that found something else than the one before.
   *
   * @param last the last survey that found the former, or null for a server's first survey
   * @param first the first survey that found the latter
   * @param by the changes that were carried out in between
   */
  public record Turn(Survey last, Survey first, List<Change> by) {}

  /** When a server was found to be something else, the oldest first. */
  public List<Turn> turns(String server) throws IOException {
    List<Change> changes = changes(server);
    List<Turn> turns = new ArrayList<>();
    Survey last = null;
    for (Survey survey : surveys(server)) {
      if (last == null || !last.state().equals(survey.state())) {
        Instant from = last == null ? survey.taken() : last.taken();
        List<Change> between =
            changes.stream()
                .filter(change -> !change.wasRefused())
                .filter(change -> !change.began().isBefore(from))
                .filter(change -> !change.began().isAfter(survey.taken()))
                .toList();
        turns.add(new Turn(last, survey, between));
      }
      last = survey;
    }
    return turns;
  }

  /** The newest survey of a server that is not younger than that. */
  public Optional<Survey> at(String server, Instant when) throws IOException {
    List<Survey> older = surveys(server).stream().filter(s -> !s.taken().isAfter(when)).toList();
    return older.isEmpty() ? Optional.empty() : Optional.of(older.get(older.size() - 1));
  }

  /**
   * Has surveys opened in their ready forms from now on, where the ledger is in a file; not for
   * what is to be evidence, which is read from what the digests are about.
   */
  public Ledger ready(ReadySurveys surveys) {
    ready = file == null ? null : surveys.states(file);
    return this;
  }

  /**
   * Reads a survey back. Cost: its size, or next to nothing where it has a ready form.
   *
   * @throws SurveyException when what the ledger holds of it is damaged
   */
  public Access read(Survey survey) throws SurveyException, IOException {
    if (ready == null) {
      return whole(survey);
    }
    byte[] digest =
        Digests.sha256()
            .digest((head(survey) + "\n" + survey.state()).getBytes(StandardCharsets.UTF_8));
    return ready.read(digest, () -> stillThere(survey)).recalled();
  }

  /** All of a survey, also where answers are still worked out when this is closed already. */
  private Access stillThere(Survey survey) throws SurveyException, IOException {
    if (!closed) {
      return whole(survey);
    }
    try (Ledger again = open(file)) {
      return again.whole(survey);
    }
  }

  /**
   * Whom a turn may concern, as it was kept beside a ledger's file when the survey was recorded, or
   * is worked out and kept now; anybody, where that cannot be told. Cost: next to nothing; where it
   * was not kept, what differs.
   *
   * @throws SurveyException when what the ledger holds of it is damaged
   */
  public Touched touched(Turn turn) throws SurveyException, IOException {
    Survey before = turn.last();
    if (file == null || before == null) {
      return Touched.ANYBODY;
    }
    ReadyTouched kept = new ReadyTouched(file, before.state(), turn.first().state());
    Touched known = kept.read();
    if (known == null && ready != null) {
      known = touched(before, turn.first(), read(turn.first()));
      kept.write(known);
    }
    return known == null ? Touched.ANYBODY : known;
  }

  private Touched touched(Survey before, Survey after, Access either) throws IOException {
    if (!ChangedLines.beginAlike(head(before), head(after))) {
      return Touched.ANYBODY;
    }
    List<String> one = inTransaction(db -> Pieces.ofState(db, before.state()));
    List<String> other = inTransaction(db -> Pieces.ofState(db, after.state()));
    Pieces.Differing lines = Pieces.differing(store, one, other);
    return ChangedLines.between(either, lines.gone(), lines.came());
  }

  /** Keeps whom a survey's differences may concern, while it is at hand. */
  private void keepTouched(Access access) {
    try {
      keepTouchedOf(access);
    } catch (IOException notKnown) {
      // the survey is recorded; whom it may concern is worked out when somebody asks
    }
  }

  private void keepTouchedOf(Access access) throws IOException {
    Survey before = null;
    for (Survey each : file == null ? List.<Survey>of() : surveys(access.about().server())) {
      boolean itself = micros(each.taken()) == micros(access.about().taken());
      if (itself && before != null && !before.state().equals(each.state())) {
        new ReadyTouched(file, before.state(), each.state()).write(touched(before, each, access));
      }
      before = each;
    }
  }

  private String head(Survey survey) throws IOException {
    return inTransaction(
        one ->
            one.one(
                row -> row.getString(1),
                "select head from survey where server = ? and taken = ?",
                survey.server(),
                micros(survey.taken())));
  }

  private Access whole(Survey survey) throws SurveyException, IOException {
    String name = "the survey of " + survey.server() + " of " + survey.taken();
    List<String> pieces = inTransaction(one -> Pieces.ofState(one, survey.state()));
    InputStream head =
        new ByteArrayInputStream((head(survey) + "\n").getBytes(StandardCharsets.UTF_8));
    try (InputStream rest = Pieces.read(store, pieces)) {
      return SurveyReader.read(name, new SequenceInputStream(head, rest)).recalled();
    } catch (UncheckedIOException damaged) {
      throw damaged.getCause();
    }
  }

  /**
   * Notes that a change begins.
   *
   * @return its number, for {@link #changed}
   */
  public long changing(
      String server, String what, String by, Instant began, List<String> statements)
      throws IOException {
    return inTurn(
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
              micros(began),
              written(statements));
          return id;
        });
  }

  /** Notes that a change came to its end. */
  public void changed(long id, Instant ended) throws IOException {
    inTransaction(
        one -> one.execute("update change_made set ended = ? where id = ?", micros(ended), id));
  }

  /** Notes that a change was refused, and that nothing of it lasts. */
  public void refused(long id, Instant ended) throws IOException {
    inTransaction(
        one ->
            one.execute(
                "update change_made set ended = ?, what = ? || what where id = ?",
                micros(ended),
                REFUSED,
                id));
  }

  /** All changes of a server, the oldest first. */
  public List<Change> changes(String server) throws IOException {
    return inTransaction(
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
    Instant end = row.wasNull() ? null : instant(ended);
    return new Change(
        row.getLong("id"),
        server,
        row.getString("what"),
        row.getString("run_by"),
        instant(row.getLong("began")),
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

  private static long micros(Instant instant) {
    return ChronoUnit.MICROS.between(Instant.EPOCH, instant);
  }

  private static Instant instant(long micros) {
    return Instant.EPOCH.plus(micros, ChronoUnit.MICROS);
  }

  @Override
  public void close() {
    closed = true;
    store.close();
  }
}
