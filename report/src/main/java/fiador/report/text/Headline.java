package fiador.report.text;

import fiador.report.shown.Tone;
import fiador.report.shown.Visible;

/** The first line of an answer: what it is, and to the right what it was answered from. */
public final class Headline {
  private Headline() {}

  /**
   * Both on one line, or where that is too long the origin on the next; without a line's end.
   *
   * @param origin without its parentheses
   */
  public static String of(String said, String origin, int width) {
    String seen = Tone.visible(said);
    String answer = seen.equals(Tone.plain(seen)) ? Tone.STRONG.of(seen) : seen;
    String from = Tone.FAINT.of(Visible.of("(" + origin + ")"));
    int gap = width - Tone.width(answer) - Tone.width(from);
    return gap >= 2
        ? answer + " ".repeat(gap) + from
        : answer + "\n" + " ".repeat(Math.max(2, width - Tone.width(from))) + from;
  }
}
