package fiador.cli.sweep;

import fiador.cli.shell.Options;
import fiador.refusal.Refusal;
import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import fiador.work.charters.Ledgers;
import fiador.work.sweeping.Sweeps;
import java.util.Iterator;
import java.util.Map;
import java.util.Objects;

/** What changed on any server. */
public final class SweepChangedCommand extends SweepQuestion {
  private static final int MOST_LINES = 60;

  String since;

  @Override
  public void options(Options options) {
    super.options(options);
    options.required(
        "--since",
        "WHEN",
        value -> since = value,
        "From this day on, or this moment in UTC: 2026-11-01 or 2026-11-01T14:00.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "What was opened, closed or altered on the servers of a sweep, from survey to survey."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when nothing changed. It is known from the second sweep of a server on.",
      "",
      "Examples:",
      "  fiador sweep changed swept --since 2026-11-01"
    };
  }

  @Override
  String name() {
    return "sweep changed";
  }

  @Override
  Sweeps.Question question() throws Refusal {
    return new Sweeps.Question.Changed(Ledgers.begin(since));
  }

  private static String text(Map<String, Object> row, String field) {
    return Objects.toString(row.get(field), "");
  }

  @Override
  Said said(Iterator<Map<String, Object>> rows) {
    Columns lines = new Columns(width());
    long count = 0;
    long opened = 0;
    long closed = 0;
    while (rows.hasNext()) {
      Map<String, Object> row = rows.next();
      String change = text(row, "change");
      opened += change.equals("opened") ? 1 : 0;
      closed += change.equals("closed") ? 1 : 0;
      if (count++ < MOST_LINES) {
        Tone tone =
            change.equals("opened") ? Tone.BAD : change.equals("closed") ? Tone.GOOD : Tone.PARTLY;
        String person = row.get("person") == null ? "" : " (" + text(row, "person") + ")";
        String columns = row.get("columns") == null ? "" : " " + row.get("columns");
        lines.line(
            text(row, "surveyed").replaceFirst("T.*", ""),
            text(row, "server"),
            tone.of(change),
            text(row, "account") + person,
            text(row, "privilege") + " " + text(row, "object") + columns);
      }
    }
    String answer =
        count == 0
            ? "nothing changed since " + since
            : Counted.of(count, "right")
                + " changed since "
                + since
                + ": "
                + opened
                + " opened, "
                + closed
                + " closed, "
                + (count - opened - closed)
                + " altered";
    String more =
        count > MOST_LINES ? "\n" + (count - MOST_LINES) + " more; --format csv has all\n" : "";
    return new Said(answer, count == 0 ? "" : "\n" + lines.text() + more, count > 0);
  }
}
