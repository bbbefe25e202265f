package fiador.changes.wanted;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;

/**
 * When something of a charter is wanted.
 *
 * @param from the first moment; null for always so far
 * @param until the moment from which it is no longer wanted; null for ever
 */
public record Period(@Nullable Instant from, @Nullable Instant until) {
  /** Wanted at any time. */
  public static final Period ALWAYS = new Period(null, null);

  /**
   * An end as a charter writes it, in UTC: the last day where it ends with one, else the moment.
   *
   * @param until the moment from which something is over
   */
  public static String endText(Instant until) {
    ZonedDateTime end = until.atZone(ZoneOffset.UTC);
    boolean day = end.toLocalTime().equals(LocalTime.MIDNIGHT);
    return day ? end.toLocalDate().minusDays(1).toString() : text(end);
  }

  /** A start as a charter writes it, in UTC: the day where it begins with one, else the moment. */
  public static String startText(Instant from) {
    ZonedDateTime start = from.atZone(ZoneOffset.UTC);
    boolean day = start.toLocalTime().equals(LocalTime.MIDNIGHT);
    return day ? start.toLocalDate().toString() : text(start);
  }

  private static String text(ZonedDateTime moment) {
    return moment.toLocalDate() + " " + moment.toLocalTime();
  }

  /** As a charter writes it behind what is wanted; empty for always. */
  public String text() {
    String start = from == null ? "" : " from " + startText(from);
    return start + (until == null ? "" : " until " + endText(until));
  }

  /** Whether its end is there or gone by. */
  public boolean isOver(Instant now) {
    return until != null && !now.isBefore(until);
  }

  /** Whether it has not begun yet. */
  public boolean isAhead(Instant now) {
    return from != null && now.isBefore(from);
  }

  /** Whether it is wanted at that moment. */
  public boolean holds(Instant now) {
    return !isOver(now) && !isAhead(now);
  }

  /** Whether there is a moment at which both are wanted. */
  public boolean meets(Period other) {
    return begins(other) && other.begins(this);
  }

  private boolean begins(Period other) {
    return from == null || other.until == null || from.isBefore(other.until);
  }
}
