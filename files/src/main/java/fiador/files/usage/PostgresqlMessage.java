package fiador.files.usage;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Lines of PostgreSQL's log. Source: its manual, chapter "Error Reporting and Logging":
 * log_statement and log_min_duration_statement write the texts told apart here.
 */
final class PostgresqlMessage {
  private static final Pattern STATEMENT =
      Pattern.compile(
          "^(?:duration: [\\d.]+ ms +)?(?:statement|execute [^:]*): (.*)$", Pattern.DOTALL);
  private static final DateTimeFormatter TIME =
      new DateTimeFormatterBuilder()
          .appendPattern("yyyy-MM-dd HH:mm:ss")
          .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
          .toFormatter();

  private PostgresqlMessage() {}

  /** The statement a message tells of, or null. */
  static String statement(String message) {
    Matcher matcher = STATEMENT.matcher(message);
    return matcher.matches() ? matcher.group(1) : null;
  }

  /** A time such as {@code 2026-11-02 08:15:00.123 UTC}. */
  static Instant time(String text) {
    int zone = text.lastIndexOf(' ');
    LocalDateTime local = LocalDateTime.parse(text.substring(0, zone), TIME);
    return local.atZone(ZoneId.of(text.substring(zone + 1), ZoneId.SHORT_IDS)).toInstant();
  }
}
