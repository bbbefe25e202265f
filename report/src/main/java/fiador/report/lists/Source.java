package fiador.report.lists;

import fiador.across.Atlas;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Terms;
import fiador.history.GrantDates;
import fiador.history.GrantDates.Since;
import fiador.report.shown.Shown;
import fiador.selection.Selection;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * What lists are made from.
 *
 * @param selection what is wanted of it
 * @param shown how names are written: for people or for programs
 * @param system whether the server's own things are wanted too
 * @param dates since when grants are there, by {@link GrantDates#key}; null where nobody asked
 * @param atlas the servers that mappings may lead to
 */
public record Source(
    Access access,
    Selection selection,
    Shown shown,
    Instant now,
    boolean system,
    Map<String, Since> dates,
    Atlas atlas) {
  /** Without dates. */
  public Source(Access access, Selection selection, Shown shown, Instant now, boolean system) {
    this(access, selection, shown, now, system, null, new Atlas(List.of()));
  }

  String principal(int id) {
    return id < 0 ? null : shown.principal(id);
  }

  /** Whether it is PUBLIC, a user or a role. */
  String kind(int principal) {
    return access.principals().kind(principal).text();
  }

  Principals people() {
    return access.principals();
  }

  List<String> powers(int principal) {
    List<String> powers = new ArrayList<>();
    for (Power power : Power.values()) {
      if (people().has(principal, power)) {
        powers.add(power.text());
      }
    }
    return powers;
  }

  /** When something ends; null for never. */
  static String until(long epochSecond) {
    return epochSecond == Terms.FOREVER ? null : time(Instant.ofEpochSecond(epochSecond));
  }

  static String time(Instant when) {
    return when == null ? null : when.atZone(ZoneOffset.UTC).toLocalDateTime() + "Z";
  }
}
