package fiador.files.ledger;

import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;

/**
 * A ledger: surveys over time and the changes that were carried out. Kept in a file (SQLite), or in
 * a PostgreSQL that a team shares. Everything is recorded in one transaction each, so whatever is
 * killed half-way leaves what was there before.
 */
public final class Ledger implements AutoCloseable {
  private static final int FORMAT = 1;

  private final String place;
  private final Handle handle;

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
      List<String> statements) {}

  private Ledger(String place, Handle handle) {
    this.place = place;
    this.handle = handle;
  }

  /** Opens the ledger in a file, which is made where there is none. */
  public static Ledger open(Path file) throws IOException {
    Path folder = file.toAbsolutePath().getParent();
    Files.createDirectories(folder);
    boolean ours = !Files.exists(file) || Files.size(file) == 0 || beginsLikeOne(file);
    if (!ours) {
      throw new LedgerException(file + " is no ledger; name another file");
    }
    if (!Files.exists(file) && Files.getFileStore(folder).supportsFileAttributeView("posix")) {
      // who holds what is nothing for everybody
      var mine = PosixFilePermissions.fromString("rw-------");
      Files.createFile(file, PosixFilePermissions.asFileAttribute(mine));
    }
    // what is said to be written is on the disk; a reader waits for a writer to be done
    String url =
        "jdbc:sqlite:"
            + file.toAbsolutePath()
            + "?synchronous=FULL&busy_timeout=20000&transaction_mode=IMMEDIATE";
    return open(file.toString(), Jdbi.create(url), "blob");
  }

  private static boolean beginsLikeOne(Path file) throws IOException {
    byte[] magic = "SQLite format 3\0".getBytes(StandardCharsets.ISO_8859_1);
    try (InputStream in = Files.newInputStream(file)) {
      return java.util.Arrays.equals(in.readNBytes(magic.length), magic);
    }
  }

  /**
   * Opens the ledger in a PostgreSQL database, in the schema that its connections find first.
   *
   * @param url {@code jdbc:postgresql://host/database}
   */
  public static Ledger open(String url, String login, String password) throws LedgerException {
    if (!url.startsWith("jdbc:postgresql:")) {
      throw new LedgerException(
          "a ledger is kept in a file or at jdbc:postgresql://..., not at " + url);
    }
    return open(url, Jdbi.create(url, login, password), "bytea");
  }

  private static Ledger open(String place, Jdbi jdbi, String bytes) throws LedgerException {
    Handle handle = null;
    try {
      handle = jdbi.open();
      prepare(handle, bytes);
      return new Ledger(place, handle);
    } catch (JdbiException refused) {
      if (handle != null) {
        handle.close();
      }
      throw new LedgerException(
          "the ledger " + place + " cannot be used: " + why(refused), refused);
    }
  }

  private static void prepare(Handle handle, String bytes) throws LedgerException {
    handle.execute("create table if not exists fiador_ledger (format integer not null)");
    List<Integer> formats =
        handle.createQuery("select format from fiador_ledger").mapTo(Integer.class).list();
    if (formats.contains(FORMAT)) {
      return;
    }
    if (!formats.isEmpty()) {
      throw new LedgerException(
          "the ledger is of format " + formats.get(0) + "; this version knows " + FORMAT);
    }
    handle.useTransaction(
        making -> {
          making.execute(
              "create table if not exists piece (id varchar(64) primary key, packed "
                  + bytes
                  + " not null)");
          making.execute(
              "create table if not exists state (id varchar(64) primary key, pieces "
                  + bytes
                  + " not null)");
          making.execute(
              """
              create table if not exists survey (
                server varchar(400) not null, taken bigint not null, head text not null,
                state varchar(64) not null references state, primary key (server, taken))""");
          making.execute(
              """
              create table if not exists change_made (
                id bigint primary key, server varchar(400) not null, what varchar(20) not null,
                run_by text not null, began bigint not null, ended bigint,
                statements text not null)""");
          making.execute(
              """
              create table if not exists review_entry (
                review varchar(200) not null, number bigint not null, line text not null,
                primary key (review, number))""");
          making.execute("insert into fiador_ledger (format) values (?)", FORMAT);
        });
  }

  /** The database's own words. */
  private static String why(Throwable failure) {
    Throwable last = failure;
    while (last.getCause() != null) {
      last = last.getCause();
    }
    return String.valueOf(last.getMessage()).replaceAll("\\s+", " ").strip();
  }

  /** What the ledger does, with failures told as such. */
  @FunctionalInterface
  interface Work<T> {
    T with(Handle handle) throws IOException;
  }

  <T> T inTransaction(Work<T> work) throws IOException {
    try {
      return handle.inTransaction(
          one -> {
            try {
              return work.with(one);
            } catch (IOException failed) {
              throw new UncheckedIOException(failed);
            }
          });
    } catch (UncheckedIOException failed) {
      throw failed.getCause();
    } catch (JdbiException refused) {
      throw new LedgerException(
          "the ledger " + place + " failed: " + why(refused) + "; nothing was recorded", refused);
    }
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
    return inTransaction(
        one -> {
          boolean fresh = count(one, "select count(*) from state where id = ?", state) == 0;
          if (fresh) {
            write(access, new PieceStream((id, bytes, length) -> keep(one, id, bytes, length)));
            byte[] list = pieces.getBytes(StandardCharsets.US_ASCII);
            one.execute(
                "insert into state (id, pieces) values (?, ?)", state, packed(list, list.length));
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
  }

  private static void write(Access access, PieceStream pieces) throws IOException {
    try (pieces) {
      SurveyWriter.write(access, pieces);
    }
  }

  private static void keep(Handle one, String id, byte[] bytes, int length) throws IOException {
    if (count(one, "select count(*) from piece where id = ?", id) == 0) {
      one.execute("insert into piece (id, packed) values (?, ?)", id, packed(bytes, length));
    }
  }

  private static int count(Handle one, String sql, Object... values) {
    return one.select(sql, values).mapTo(Integer.class).one();
  }

  private static byte[] packed(byte[] bytes, int length) throws IOException {
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (DeflaterOutputStream out = new DeflaterOutputStream(packed)) {
      out.write(bytes, 0, length);
    }
    return packed.toByteArray();
  }

  /** The servers it knows, by name. */
  public List<String> servers() throws IOException {
    return inTransaction(
        one ->
            one.select("select distinct server from survey order by server")
                .mapTo(String.class)
                .list());
  }

  /** All surveys of a server, the oldest first. */
  public List<Survey> surveys(String server) throws IOException {
    return inTransaction(
        one ->
            one.select("select taken, state from survey where server = ? order by taken", server)
                .map(
                    (row, context) -> new Survey(server, instant(row.getLong(1)), row.getString(2)))
                .list());
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
   * Reads a survey back. Cost: its size.
   *
   * @throws SurveyException when what the ledger holds of it is damaged
   */
  public Access read(Survey survey) throws SurveyException, IOException {
    String name = "the survey of " + survey.server() + " of " + survey.taken();
    Map.Entry<String, List<String>> found =
        inTransaction(
            one -> {
              String head =
                  one.select(
                          "select head from survey where server = ? and taken = ?",
                          survey.server(),
                          micros(survey.taken()))
                      .mapTo(String.class)
                      .one();
              byte[] list =
                  one.select("select pieces from state where id = ?", survey.state())
                      .mapTo(byte[].class)
                      .one();
              String ids = new String(unpacked(list).readAllBytes(), StandardCharsets.US_ASCII);
              return Map.entry(head, List.of(ids.split("\n")));
            });
    Iterator<String> ids = found.getValue().iterator();
    InputStream head =
        new ByteArrayInputStream((found.getKey() + "\n").getBytes(StandardCharsets.UTF_8));
    try (InputStream rest =
        new SequenceInputStream(
            Collections.enumeration(
                new java.util.AbstractList<InputStream>() {
                  @Override
                  public InputStream get(int index) {
                    return piece(ids.next());
                  }

                  @Override
                  public int size() {
                    return found.getValue().size();
                  }
                }))) {
      return SurveyReader.read(name, new SequenceInputStream(head, rest)).recalled();
    } catch (UncheckedIOException damaged) {
      throw damaged.getCause();
    }
  }

  private InputStream piece(String id) {
    byte[] packed =
        handle.select("select packed from piece where id = ?", id).mapTo(byte[].class).one();
    try (InputStream in = unpacked(packed)) {
      byte[] bytes = in.readAllBytes();
      if (!Digests.hex(Digests.sha256().digest(bytes)).equals(id)) {
        throw new IOException("the ledger " + place + " is damaged: piece " + id + " was altered");
      }
      return new ByteArrayInputStream(bytes);
    } catch (IOException damaged) {
      throw new UncheckedIOException(damaged);
    }
  }

  private static InputStream unpacked(byte[] packed) {
    return new InflaterInputStream(new ByteArrayInputStream(packed));
  }

  /**
   * Notes that a change begins.
   *
   * @return its number, for {@link #changed}
   */
  public long changing(
      String server, String what, String by, Instant began, List<String> statements)
      throws IOException {
    return inTransaction(
        one -> {
          long id =
              one.select("select coalesce(max(id), 0) + 1 from change_made")
                  .mapTo(Long.class)
                  .one();
          one.execute(
              """
              insert into change_made (id, server, what, run_by, began, statements)
              values (?, ?, ?, ?, ?, ?)""",
              id,
              server,
              what,
              by,
              micros(began),
              // no statement has this in it: it is no character of any text
              String.join("\u001e", statements));
          return id;
        });
  }

  /** Notes that a change came to its end. */
  public void changed(long id, Instant ended) throws IOException {
    inTransaction(
        one -> one.execute("update change_made set ended = ? where id = ?", micros(ended), id));
  }

  /** All changes of a server, the oldest first. */
  public List<Change> changes(String server) throws IOException {
    return inTransaction(
        one ->
            one.select(
                    """
                    select id, what, run_by, began, ended, statements from change_made
                    where server = ? order by began, id""",
                    server)
                .map(
                    (row, context) -> {
                      long ended = row.getLong("ended");
                      Instant end = row.wasNull() ? null : instant(ended);
                      String statements = row.getString("statements");
                      return new Change(
                          row.getLong("id"),
                          server,
                          row.getString("what"),
                          row.getString("run_by"),
                          instant(row.getLong("began")),
                          end,
                          statements.isEmpty() ? List.of() : List.of(statements.split("\u001e")));
                    })
                .list());
  }

  private static long micros(Instant instant) {
    return ChronoUnit.MICROS.between(Instant.EPOCH, instant);
  }

  private static Instant instant(long micros) {
    return Instant.EPOCH.plus(micros, ChronoUnit.MICROS);
  }

  @Override
  public void close() {
    handle.close();
  }
}
