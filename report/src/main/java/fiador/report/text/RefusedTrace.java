package fiador.report.text;

import fiador.effects.Trace;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.time.Instant;
import java.util.List;
import java.util.Locale;

/** Why a server refused something, from what it said: the traces of what may have been missing. */
public final class RefusedTrace {
  private final Access access;
  private final Shown shown;
  private final int width;
  private final Instant now;

  /** Parameters as for {@link TraceText}. */
  public RefusedTrace(Access access, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.width = width;
    this.now = now;
  }

  /**
   * The answer.
   *
   * @param traces of each privilege that may be meant
   */
  public String text(int user, int node, List<Trace> traces) {
    List<Trace> missing = traces.stream().filter(trace -> !trace.works()).toList();
    String what = shown.node(node);
    String who = shown.principal(user);
    if (missing.isEmpty()) {
      return Headline.of(
              Tone.PARTLY.of("nothing is missing here:")
                  + Tone.STRONG.of(" " + who + " may do all of that on " + what),
              shown.origin(now),
              width)
          + "\n\n  the survey may be older than what the server said, or the server means something else\n";
    }
    StringBuilder text = new StringBuilder();
    text.append("the server means ").append(what).append('\n').append('\n');
    text.append(new TraceText(access, width, now).text(missing.get(0)));
    List<Trace> others = missing.subList(1, missing.size());
    Columns lines = new Columns(width);
    if (!others.isEmpty()) {
      lines.line("missing too", names(others));
    }
    List<Trace> works = traces.stream().filter(Trace::works).toList();
    if (!works.isEmpty()) {
      lines.line("allowed", names(works));
    }
    String more = lines.text();
    return text.append(more.isEmpty() ? "" : "\n" + more).toString();
  }

  private static String names(List<Trace> traces) {
    return String.join(
        ", ",
        traces.stream()
            .map(Trace::privilege)
            .map(Privilege::text)
            .map(text -> text.toUpperCase(Locale.ROOT))
            .toList());
  }
}
