package fiador.files.ledger;

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
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A ledger: surveys over time and the changes that were carried out. Kept in a file (SQLite), or in
 * a PostgreSQL that a team shares. Everything is recorded in one transaction each, so whatever is
 * killed half-way leaves what was there before.
 */
public final class Ledger implements AutoCloseable {
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
                  Micros.of(access.about().taken()),
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

  /** The changes that were carried out on its servers. */
  public ChangeBook changes() {
    return new ChangeBook(this);
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
                row -> new Survey(server, Micros.instant(row.getLong(1)), row.getString(2)),
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
  public record Turn(Survey last, Survey first, List<ChangeBook.Change> by) {}

  /** When a server was found to be something else, the oldest first. */
  public List<Turn> turns(String server) throws IOException {
    List<ChangeBook.Change> changes = changes().of(server);
    List<Turn> turns = new ArrayList<>();
    Survey last = null;
    for (Survey survey : surveys(server)) {
      if (last == null || !last.state().equals(survey.state())) {
        Instant from = last == null ? survey.taken() : last.taken();
        List<ChangeBook.Change> between =
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
      boolean itself = Micros.of(each.taken()) == Micros.of(access.about().taken());
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
                Micros.of(survey.taken())));
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

  @Override
  public void close() {
    closed = true;
    store.close();
  }
}
