package fiador.servers.jdbc;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Calendar;
import java.util.Date;
import java.util.GregorianCalendar;
import java.util.Locale;
import java.util.TimeZone;

/** How a kind of server's driver gives a time just as it stands in the table. */
@FunctionalInterface
public interface Times {
  /** Most drivers: the server's own text, and what the driver makes of it where that is odd. */
  Times AS_TEXT =
      (row, at) -> {
        String text = row.getString(at);
        return TableReader.isPlain(text)
            ? LocalDateTime.parse(text.replace(' ', 'T'))
            : row.getObject(at, LocalDateTime.class);
      };

  /** For a driver that takes times through this machine's zone, where some do not exist. */
  Times WITHOUT_ZONES =
      (row, at) -> {
        Timestamp time = row.getTimestamp(at, proleptic());
        return time == null ? null : LocalDateTime.ofInstant(time.toInstant(), ZoneOffset.UTC);
      };

  /**
   * The time in a row.
   *
   * @param at the ordinal of the column, from 1
   * @return null where there is none
   */
  LocalDateTime in(ResultSet row, int at) throws SQLException;

  /** A calendar without zones that is Gregorian all the way back, as servers' are. */
  @SuppressWarnings("JavaUtilDate")
  private static Calendar proleptic() {
    GregorianCalendar calendar = new GregorianCalendar(TimeZone.getTimeZone("UTC"), Locale.ROOT);
    calendar.setGregorianChange(new Date(Long.MIN_VALUE));
    return calendar;
  }
}
