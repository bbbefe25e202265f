package fiador.servers.postgresql;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Stream;

/**
 * Hears whenever code of a hostile user runs with anybody else's rights. It writes to the server's
 * log, which no rollback and no read-only transaction takes back.
 */
final class Alarm {
  /** Makes the functions that ring: one that may change anything, one that says it is constant. */
  static final List<String> FUNCTIONS =
      List.of(
          """
          CREATE FUNCTION evil.ring() RETURNS integer LANGUAGE plpgsql SET search_path = pg_catalog AS $$
          BEGIN
            IF session_user <> 'mallory' OR current_user <> 'mallory' THEN
              RAISE WARNING 'ALARM % as %', session_user, current_user;
            END IF;
            RETURN 1;
          END $$""",
          """
          CREATE FUNCTION evil.fixed(x integer) RETURNS integer IMMUTABLE LANGUAGE plpgsql AS $$
          BEGIN
            PERFORM evil.ring();
            RETURN x;
          END $$""",
          """
          CREATE FUNCTION evil.stays(x text) RETURNS boolean IMMUTABLE LANGUAGE plpgsql AS $$
          BEGIN
            PERFORM evil.ring();
            RETURN true;
          END $$""",
          """
          CREATE FUNCTION evil.fires() RETURNS trigger LANGUAGE plpgsql AS $$
          BEGIN
            PERFORM evil.ring();
            RETURN NULL;
          END $$""");

  private static final int PATIENCE_MILLIS = 15_000;

  private final Path logs;
  private final Connection admin;
  private int marks;

  Alarm(Path logs, Connection admin) {
    this.logs = logs;
    this.admin = admin;
  }

  /** What was heard until now, once the server has written all of it. */
  List<String> heard() throws SQLException, IOException, InterruptedException {
    String mark = "MARK " + ++marks + " END";
    try (Statement statement = admin.createStatement()) {
      statement.execute("DO $$ BEGIN RAISE WARNING '" + mark + "'; END $$");
    }
    for (int waited = 0; waited < PATIENCE_MILLIS; waited += 100) {
      List<String> lines = lines();
      if (lines.stream().anyMatch(line -> line.contains("WARNING") && line.contains(mark))) {
        return lines.stream()
            .filter(line -> line.contains("WARNING") && line.matches(".*\"ALARM [\\w ]+\".*"))
            .toList();
      }
      Thread.sleep(100);
    }
    throw new IOException("the server's log does not come");
  }

  /** All that was written into the server's log. */
  List<String> lines() throws IOException {
    try (Stream<Path> files = Files.list(logs)) {
      return files.filter(file -> file.toString().endsWith(".csv")).flatMap(Alarm::lines).toList();
    }
  }

  private static Stream<String> lines(Path file) {
    try {
      return new String(Files.readAllBytes(file), StandardCharsets.UTF_8).lines();
    } catch (IOException gone) {
      throw new java.io.UncheckedIOException(gone);
    }
  }
}
