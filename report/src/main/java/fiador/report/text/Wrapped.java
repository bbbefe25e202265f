package fiador.report.text;

import fiador.report.shown.Tone;
import java.util.ArrayList;
import java.util.List;

/** Wraps the text of a cell into a column. */
final class Wrapped {
  /** Narrower no column is made. */
  static final int NARROWEST = 8;

  /** What is wrapped stands further in, so that it is not taken for a line of its own. */
  static final String FURTHER = "  ";

  private static final String BEHIND = "._/,-)=";

  private Wrapped() {}

  /** The lines of a cell, none wider than its room. A cell that is wrapped loses its tone. */
  static List<String> cell(String cell, int room) {
    if (Tone.width(cell) <= room) {
      return List.of(cell);
    }
    List<String> parts = new ArrayList<>();
    String rest = Tone.plain(cell);
    String before = "";
    while (Tone.width(rest) > room - before.length()) {
      int most = fitting(rest, room - before.length());
      int cut = cut(rest, most);
      parts.add(before + rest.substring(0, cut).stripTrailing());
      rest = rest.substring(cut).stripLeading();
      before = FURTHER;
    }
    parts.add(before + rest);
    return parts;
  }

  /** How many characters fit; at least one. */
  private static int fitting(String text, int room) {
    int at = 0;
    while (at < text.length()) {
      int next = text.offsetByCodePoints(at, 1);
      if (Tone.width(text.substring(0, next)) > room) {
        break;
      }
      at = next;
    }
    return at == 0 ? text.offsetByCodePoints(0, 1) : at;
  }

  /** Where it is cut best, up to there. */
  private static int cut(String text, int most) {
    int blank = text.lastIndexOf(' ', most);
    if (blank > 0) {
      return blank;
    }
    for (int at = most; at > 1; at--) {
      if (BEHIND.indexOf(text.charAt(at - 1)) >= 0) {
        return at;
      }
    }
    return most;
  }
}
