package fiador.files.charter;

import fiador.changes.wanted.Period;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads when something begins and ends: a day, or a time of day, with a zone or in UTC. A day that
 * is an end is meant with all its hours.
 */
final class Moments {
  private static final String EXPECTED =
      ", expected a day such as 2027-03-31, or a time such as 2027-03-31 18:00 or"
          + " 2027-03-31 18:00 Europe/Lisbon";
  private static final Pattern MOMENT =
      Pattern.compile(
          "(?<day>\\d{4}-\\d\\d-\\d\\d)([ T](?<time>\\d\\d:\\d\\d\\S*?))?( ?(?<zone>[A-Z+-]\\S*))?");

  /** A name and what stands behind it; a day comes first, so that a thing may be called "until". */
  private static final Pattern BEHIND =
      Pattern.compile(
          "(?<what>.*?)(\\s+from\\s+(?<from>\\d.*?))?(\\s+until\\s+(?<until>\\d.*?))?\\s*",
          Pattern.DOTALL);

  private Moments() {}

  /**
   * Something and when it is wanted.
   *
   * @param text what stands before
   */
  record Timed(Scalar text, Period when) {}

  /** Splits "... from X until Y"; a mistake in a moment is noted, and then there is none. */
  static Timed split(Scalar written, Mistakes mistakes) {
    Matcher parts = BEHIND.matcher(written.text());
    if (!parts.matches()) {
      return new Timed(written, Period.ALWAYS);
    }
    Instant from = part(written, parts, "from", false, mistakes);
    Instant until = part(written, parts, "until", true, mistakes);
    if (from != null && until != null && !from.isBefore(until)) {
      mistakes.add(written.at(parts.start("until")), "ends before it begins");
    }
    Scalar what = new Scalar(parts.group("what"), written.quoted(), written.place());
    boolean always = from == null && until == null;
    return new Timed(what, always ? Period.ALWAYS : new Period(from, until));
  }

  private static Instant part(
      Scalar written, Matcher parts, String group, boolean end, Mistakes mistakes) {
    String text = parts.group(group);
    return text == null
        ? null
        : read(new Scalar(text, false, written.at(parts.start(group))), end, mistakes);
  }

  /**
   * The moment, or null where it is none, which is then noted.
   *
   * @param end whether a day is meant with all its hours
   */
  static Instant read(Scalar written, boolean end, Mistakes mistakes) {
    if (written == null) {
      return null;
    }
    Matcher parts = MOMENT.matcher(written.text());
    try {
      if (parts.matches()) {
        return moment(parts, end);
      }
    } catch (DateTimeException noSuchDay) {
      // said as for all that is no moment
    }
    mistakes.add(written.place(), "found " + written.what() + EXPECTED);
    return null;
  }

  private static Instant moment(Matcher parts, boolean end) {
    String zone = parts.group("zone");
    ZoneId in = zone == null ? ZoneOffset.UTC : ZoneId.of(zone);
    LocalDate day = LocalDate.parse(parts.group("day"));
    String time = parts.group("time");
    LocalDateTime local =
        time == null
            ? (end ? day.plusDays(1) : day).atStartOfDay()
            : day.atTime(LocalTime.parse(time));
    return local.atZone(in).toInstant();
  }
}
