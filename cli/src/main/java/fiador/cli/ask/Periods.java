package fiador.cli.ask;

import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.report.shown.Shown;
import fiador.report.text.Columns;
import fiador.report.text.HistoryText;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Since when, until when and through what somebody held one privilege. */
final class Periods {
  /** The fields of rows, in order. */
  static final List<String> FIELDS = List.of("last_before", "from", "to", "by", "state", "through");

  private static final String NOT_HELD = "not held";

  private final String user;
  private final Privilege privilege;
  private final String object;
  private final List<Period> periods = new ArrayList<>();

  /** How it was held over a time. */
  private record Period(Instant last, Instant from, String by, String state, String through) {
    boolean works() {
      return state.equals("live") || state.equals("on-request");
    }
  }

  /** Of that user, by their stored name. */
  Periods(String user, Privilege privilege, String object) {
    this.user = user;
    this.privilege = privilege;
    this.object = object;
  }

  /**
   * Adds the next survey that found something new.
   *
   * @param last when it was last seen otherwise, or null
   * @param by who changed it, or empty
   */
  void add(Access access, Instant last, String by) {
    int who = access.principals().named(user);
    Lookup.Found what = new Lookup(access).node(object, privilege.bit(), true);
    String state = NOT_HELD;
    String through = "";
    Instant taken = access.about().taken();
    if (who >= 0 && what.ok()) {
      Clock then = Clock.fixed(taken, ZoneOffset.UTC);
      Trace trace = new Tracer(access, then).trace(who, privilege, what.id(), what.column(), 1);
      state = trace.state() == null ? NOT_HELD : trace.state().text();
      through = trace.paths().isEmpty() ? "" : HistoryText.through(access, trace);
    } else {
      through = who < 0 ? "no such user then" : "no such object then";
    }
    Period before = periods.isEmpty() ? null : periods.get(periods.size() - 1);
    boolean same =
        before != null && before.state().equals(state) && before.through().equals(through);
    if (!same) {
      periods.add(new Period(last, taken, by, state, through));
    }
  }

  private Period now() {
    return periods.isEmpty() ? null : periods.get(periods.size() - 1);
  }

  /** Whether it is held, and works, in the last survey. */
  boolean isHeld() {
    return now() != null && now().works();
  }

  /** Whether it is held now, in words. */
  String answer() {
    return now() == null ? "nothing is known" : isHeld() ? "yes, " + now().state() : "no";
  }

  /** A line for each. */
  String text(int width) {
    Columns lines = new Columns(width);
    for (int i = 0; i < periods.size(); i++) {
      Period period = periods.get(i);
      Instant end = i + 1 < periods.size() ? periods.get(i + 1).from() : null;
      String begun = period.by().isEmpty() ? "not by fiador" : period.by();
      lines.line(
          bare(period.from()),
          end == null ? "still so" : "to " + bare(end),
          period.state(),
          period.through(),
          period.last() == null ? "first survey" : begun);
    }
    return lines.text();
  }

  private static String bare(Instant instant) {
    return Shown.time(instant).replace(" UTC", "");
  }

  /** The same for programs. */
  List<Map<String, Object>> rows() {
    List<Map<String, Object>> rows = new ArrayList<>();
    for (int i = 0; i < periods.size(); i++) {
      Period period = periods.get(i);
      Map<String, Object> row = new LinkedHashMap<>();
      row.put("last_before", period.last() == null ? null : period.last().toString());
      row.put("from", period.from().toString());
      row.put("to", i + 1 < periods.size() ? periods.get(i + 1).from().toString() : null);
      row.put("by", period.by().isEmpty() ? null : period.by());
      row.put("state", period.state());
      row.put("through", period.through().isEmpty() ? null : period.through());
      rows.add(row);
    }
    return rows;
  }
}
