package fiador.report.shown;

import java.util.List;

/** The colours of a terminal, readable on light and on dark ground. */
public enum Palette {
  NONE(List.of("", "", "", "", "")),
  /** The eight that every terminal has; its own settings say how they look. */
  EIGHT(List.of("32", "35", "31", "2", "1")),
  /**
   * Of the 256: each stands out from white and from black alike, by a contrast of about four or
   * more.
   */
  MANY(List.of("38;5;28", "38;5;130", "38;5;160", "38;5;244", "1"));

  private final List<String> codes;

  Palette(List<String> codes) {
    this.codes = codes;
  }

  /**
   * What a terminal of that name shows.
   *
   * @param term the variable TERM; null where nobody set it
   * @param noColor the variable NO_COLOR; whoever sets it wants none
   */
  public static Palette of(String term, String noColor) {
    if (noColor != null && !noColor.isEmpty() || term == null || term.equals("dumb")) {
      return NONE;
    }
    return term.contains("256") || term.contains("direct") ? MANY : EIGHT;
  }

  /** What begins the tone of a mark's code, or ends it. */
  String of(char code) {
    if (this == NONE) {
      return "";
    }
    int tone = code - Tone.FIRST;
    boolean known = tone >= 0 && tone < codes.size();
    return "\u001b[" + (known ? codes.get(tone) : "0") + "m";
  }
}
