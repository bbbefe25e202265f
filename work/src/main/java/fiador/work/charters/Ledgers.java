package fiador.work.charters;

import fiador.files.charter.Charter;
import fiador.files.ledger.Ledger;
import fiador.refusal.BadInput;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Ledgers of charters, and points in time as people write them. */
public final class Ledgers {
  private Ledgers() {}

  /** Opens the ledger of a charter; null where it keeps none. */
  public static @Nullable Ledger open(Path folder, Charter charter) throws IOException {
    Charter.LedgerEntry entry = charter.ledger();
    if (entry.url().equals(Charter.LedgerEntry.NONE)) {
      return null;
    }
    return entry.url().startsWith("jdbc:")
        ? Ledger.open(entry.url(), entry.login(), entry.password())
        : Ledger.open(folder.resolve(entry.url()));
  }

  /** Opens the ledger of a charter to look something up in it. */
  public static Ledger existing(Path folder, Charter charter) throws BadInput, IOException {
    Charter.LedgerEntry entry = charter.ledger();
    boolean file = !entry.url().startsWith("jdbc:");
    if (entry.url().equals(Charter.LedgerEntry.NONE)) {
      throw new BadInput("the charter keeps no ledger: it says ledger: none");
    }
    if (file && !Files.isRegularFile(folder.resolve(entry.url()))) {
      throw new BadInput(
          "there is no ledger "
              + folder.resolve(entry.url())
              + " yet; fiador survey and fiador settle write it");
    }
    return Objects.requireNonNull(open(folder, charter), "a ledger that is kept");
  }

  /** Who runs this, as the operating system says. */
  public static String runner() {
    return System.getProperty("user.name", "somebody");
  }

  /** The end of a day, or a point in time, in UTC. */
  public static Instant end(String written) throws BadInput {
    try {
      if (written.matches("\\d{4}-\\d\\d-\\d\\d")) {
        LocalDate day = LocalDate.parse(written);
        return day.plusDays(1).atStartOfDay().toInstant(ZoneOffset.UTC).minusNanos(1000);
      } else if (written.endsWith("Z")) {
        return Instant.parse(written);
      }
      return LocalDateTime.parse(written.replace(' ', 'T')).toInstant(ZoneOffset.UTC);
    } catch (DateTimeParseException malformed) {
      throw new BadInput(
          written
              + " is no point in time; write 2026-03-03 (the end of that day) or 2026-03-03T14:00, in UTC");
    }
  }

  /** The beginning of a day, or a point in time, in UTC. */
  public static Instant begin(String written) throws BadInput {
    Instant end = end(written);
    boolean day = written.length() == 10;
    return day ? LocalDate.parse(written).atStartOfDay().toInstant(ZoneOffset.UTC) : end;
  }
}
