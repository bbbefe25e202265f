package fiador.files.ledger;

import fiador.files.Kept;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sqlite.JDBC;

/** Where a ledger is kept: its tables, in a file or on a PostgreSQL, and its transactions. */
final class LedgerStore implements AutoCloseable {
  private static final int FORMAT = 1;

  private static final Pattern PARAMETER = Pattern.compile("[?&]([^=&]+)");

  /** Others load classes, write logs or change the session. */
  private static final List<String> PARAMETERS =
      List.of("ssl", "sslcert", "sslkey", "sslmode", "sslrootcert");

  private static final Pattern LOCAL =
      Pattern.compile(
          "jdbc:postgresql:(?!//).*"
              + "|jdbc:postgresql://(localhost|127(\\.\\d{1,3}){3}|\\[::1])?(:\\d+)?(/.*)?");

  /** What a database or a role may set for others, set here. */
  private static final String SETTINGS =
      "-c role=none -c local_preload_libraries= -c row_security=off -c jit=off"
          + " -c default_transaction_read_only=off -c standard_conforming_strings=on"
          + " -c statement_timeout=600s -c lock_timeout=60s";

  /** What a text of bytes is called where several share a ledger. */
  private static final String SHARED = "bytea";

  /** The number of the lock under which tables are made. */
  private static final long MAKING = 6_023_177_406_411L;

  /** What a server says to one of two that wait for each other, and to who came too late. */
  private static final List<String> AGAIN = List.of("40P01", "40001");

  private static final int TRIES = 5;

  private final String place;
  private final Tables tables;
  private final boolean shared;

  private LedgerStore(String place, Tables tables, boolean shared) {
    this.place = place;
    this.tables = tables;
    this.shared = shared;
  }

  /** Opens the ledger in a file, which is made where there is none. */
  static LedgerStore open(Path file) throws IOException {
    Path folder = file.toAbsolutePath().getParent();
    Kept.folder(folder);
    boolean ours = !Files.exists(file) || Files.size(file) == 0 || beginsLikeOne(file);
    if (!ours) {
      throw new LedgerException(file + " is no ledger; name another file");
    }
    if (!Files.exists(file) && Files.getFileStore(folder).supportsFileAttributeView("posix")) {
      // who holds what is nothing for everybody
      var mine = PosixFilePermissions.fromString("rw-------");
      try {
        Files.createFile(file, PosixFilePermissions.asFileAttribute(mine));
      } catch (FileAlreadyExistsException another) {
        // somebody else opened it at the same moment, and made it as we would have
      }
    }
    // what is said to be written is on the disk; a reader waits for a writer to be done
    String url =
        "jdbc:sqlite:"
            + file.toAbsolutePath()
            + "?synchronous=FULL&busy_timeout=20000&transaction_mode=IMMEDIATE";
    // asked directly: to find a driver by its address every one there is would be loaded
    return open(file.toString(), () -> new JDBC().connect(url, new Properties()), "blob");
  }

  /** Opens a database that is in memory only, and closes it. */
  static void load() throws IOException {
    try {
      new JDBC().connect("jdbc:sqlite::memory:", new Properties()).close();
    } catch (SQLException failed) {
      throw new LedgerException(failed.getMessage());
    }
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
  static LedgerStore open(String url, String login, String password) throws IOException {
    if (!url.startsWith("jdbc:postgresql:")) {
      throw new LedgerException(
          "a ledger is kept in a file or at jdbc:postgresql://..., not at " + hidden(url));
    }
    Matcher parameter = PARAMETER.matcher(url);
    while (parameter.find()) {
      if (!PARAMETERS.contains(parameter.group(1).toLowerCase(Locale.ROOT))) {
        throw new LedgerException(
            "the ledger's address has the parameter "
                + parameter.group(1)
                + ", which is not allowed; allowed are "
                + String.join(", ", PARAMETERS));
      }
    }
    Properties settings = new Properties();
    if (!LOCAL.matcher(url).matches() && !url.contains("sslmode=")) {
      // no secret goes to a machine that has not proved who it is
      settings.setProperty("sslmode", "verify-full");
      if (!url.contains("sslrootcert")) {
        settings.setProperty("sslfactory", "org.postgresql.ssl.DefaultJavaSSLFactory");
      }
    }
    settings.setProperty("user", login);
    settings.setProperty("password", password);
    settings.setProperty("options", SETTINGS);
    return open(hidden(url), () -> DriverManager.getConnection(url, settings), SHARED);
  }

  /**
   * Only the schema is a matter of the database; who may create things there acts as the ledger.
   */
  private static void alone(Tables tables) throws IOException {
    String schema = tables.one(row -> row.getString(1), "select pg_catalog.current_schema()");
    boolean open =
        tables.one(
            row -> row.getBoolean(1),
            "select pg_catalog.has_schema_privilege('public'::pg_catalog.name,"
                + " pg_catalog.current_schema()::pg_catalog.text, 'create'::pg_catalog.text)");
    if (open) {
      throw new LedgerException(
          "everybody may create things in the schema "
              + schema
              + " of the ledger, and could alter what it says; REVOKE CREATE ON SCHEMA "
              + schema
              + " FROM PUBLIC there first");
    }
    tables.texts(
        "select pg_catalog.set_config('search_path', ?, false)",
        '"' + schema.replace("\"", "\"\"") + '"');
  }

  private static String hidden(String url) {
    return url.replaceAll("//[^/?@]*@", "//").replaceFirst("\\?.*$", "");
  }

  /** How a connection is made. */
  @FunctionalInterface
  private interface Connecting {
    Connection connect() throws SQLException;
  }

  private static LedgerStore open(String place, Connecting way, String bytes) throws IOException {
    Tables tables = null;
    try {
      tables = new Tables(way.connect());
      if (bytes.equals(SHARED)) {
        alone(tables);
      }
      prepare(tables, bytes);
      return new LedgerStore(place, tables, bytes.equals(SHARED));
    } catch (LedgerException refused) {
      close(tables);
      throw refused;
    } catch (StatementException | SQLException refused) {
      close(tables);
      throw new LedgerException(
          "the ledger " + place + " cannot be used: " + why(refused), refused);
    }
  }

  private static void close(Tables tables) {
    try {
      if (tables != null) {
        tables.close();
      }
    } catch (SQLException gone) {
      // what was recorded is there, and a connection that is gone needs no closing
    }
  }

  /** Several may open a new ledger at once; one of them makes its tables. */
  private static void prepare(Tables tables, String bytes) throws IOException {
    boolean shared = bytes.equals(SHARED);
    if (!isThere(tables, shared)) {
      make(tables, bytes, shared);
    }
    List<Integer> formats = formats(tables);
    if (!formats.contains(FORMAT)) {
      throw new LedgerException(
          "the ledger is of format "
              + (formats.isEmpty() ? "none" : formats.get(0))
              + "; this version knows "
              + FORMAT);
    }
  }

  private static List<Integer> formats(Tables tables) throws IOException {
    return tables.list(row -> row.getInt(1), "select format from fiador_ledger");
  }

  private static boolean isThere(Tables tables, boolean shared) throws IOException {
    String named =
        shared
            ? "select count(*) from pg_catalog.pg_tables"
                + " where schemaname = pg_catalog.current_schema() and tablename = 'fiador_ledger'"
            : "select count(*) from sqlite_master where name = 'fiador_ledger'";
    return tables.number(named) > 0 && !formats(tables).isEmpty();
  }

  private static void make(Tables tables, String bytes, boolean shared) throws IOException {
    tables.inTransaction(
        making -> {
          if (shared) {
            making.texts("select pg_catalog.pg_advisory_xact_lock(?)::text", MAKING);
          }
          making.execute("create table if not exists fiador_ledger (format integer not null)");
          if (!formats(making).isEmpty()) {
            return 0;
          }
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
          return making.execute("insert into fiador_ledger (format) values (?)", FORMAT);
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
  <T> T inTransaction(Tables.Work<T> work) throws IOException {
    for (int tried = 1; ; tried++) {
      try {
        return tables.inTransaction(work);
      } catch (StatementException refused) {
        if (tried == TRIES || !isToBeTriedAgain(refused)) {
          throw new LedgerException(
              "the ledger " + place + " failed: " + why(refused) + "; nothing was recorded",
              refused);
        }
      }
    }
  }

  private static boolean isToBeTriedAgain(Throwable failure) {
    for (Throwable at = failure; at != null; at = at.getCause()) {
      if (at instanceof SQLException said && AGAIN.contains(said.getSQLState())) {
        return true;
      }
    }
    return false;
  }

  /**
   * As the other, where the next row depends on the last: nobody else adds to the table until it is
   * done. In a file nobody else writes anyway.
   */
  <T> T inTurn(String table, Tables.Work<T> work) throws IOException {
    return inTransaction(
        one -> {
          if (shared) {
            one.execute("lock table " + table + " in share row exclusive mode");
          }
          return work.with(one);
        });
  }

  /** In words, for messages. */
  String place() {
    return place;
  }

  /** A piece, which never changes, as it is packed; outside a transaction. */
  byte[] piece(String id) throws IOException {
    try {
      return tables.one(row -> row.getBytes(1), "select packed from piece where id = ?", id);
    } catch (StatementException missing) {
      throw new LedgerException(
          "the ledger " + place + " cannot be read: " + why(missing), missing);
    }
  }

  @Override
  public void close() {
    close(tables);
  }
}
