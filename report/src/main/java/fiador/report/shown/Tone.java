package fiador.report.shown;

import java.util.Random;
import org.jline.utils.WCWidth;

/**
 * What a piece of text is meant to look like on a terminal. A piece is put between marks, which the
 * last door before a terminal turns into colours and the door before anything else takes away
 * ({@link ToneStream}). The marks begin with characters drawn at each start, so that no name on a
 * server can hold one.
 */
public enum Tone {
  /** It works, it holds. */
  GOOD,
  /** It works after something more, or partly. */
  PARTLY,
  /** It does not work, it is bad. */
  BAD,
  /** Less important: ages, hints, headings of columns. */
  FAINT,
  /** What the answer is. */
  STRONG;

  /** Of the range that Unicode leaves to everybody; the codes behind them are not drawn. */
  static final String BEGIN = drawn();

  static final char END = '\ue0ff';
  static final char FIRST = '\ue0f0';

  private static String drawn() {
    Random random = new Random();
    StringBuilder marks = new StringBuilder();
    for (int i = 0; i < 5; i++) {
      marks.append((char) ('\ue100' + random.nextInt(0x1700)));
    }
    // the first one comes but once, so that a search never has to look back
    return '\ue0fe' + marks.toString();
  }

  /** A text of one line in this tone. */
  public String of(String text) {
    return text.isEmpty() ? text : BEGIN + code() + text + BEGIN + END;
  }

  char code() {
    return (char) (FIRST + ordinal());
  }

  /** A text of one line as {@link Visible} shows it, with its tones. */
  public static String visible(String text) {
    if (text.indexOf(BEGIN) < 0) {
      return Visible.of(text);
    }
    StringBuilder seen = new StringBuilder();
    int at = 0;
    for (int mark = text.indexOf(BEGIN); mark >= 0; mark = text.indexOf(BEGIN, at)) {
      int end = Math.min(text.length(), mark + BEGIN.length() + 1);
      seen.append(Visible.of(text.substring(at, mark))).append(text, mark, end);
      at = end;
    }
    return seen.append(Visible.of(text.substring(at))).toString();
  }

  /** A text without its tones. */
  public static String plain(String text) {
    if (text.indexOf(BEGIN) < 0) {
      return text;
    }
    StringBuilder plain = new StringBuilder();
    int at = 0;
    for (int mark = text.indexOf(BEGIN); mark >= 0; mark = text.indexOf(BEGIN, at)) {
      plain.append(text, at, mark);
      at = Math.min(text.length(), mark + BEGIN.length() + 1);
    }
    return plain.append(text.substring(at)).toString();
  }

  /**
   * How many columns of a terminal a text takes: letters of some scripts take two, accents none.
   */
  public static int width(String text) {
    int simple = 0;
    while (simple < text.length() && text.charAt(simple) < 0x300) {
      simple++;
    }
    if (simple == text.length()) {
      return simple;
    }
    String plain = plain(text);
    int width = 0;
    for (int at = 0; at < plain.length(); ) {
      int codePoint = plain.codePointAt(at);
      at += Character.charCount(codePoint);
      // the library is asked for what is not plain, and so not loaded for most answers
      width += codePoint < 0x300 ? 1 : Math.max(0, WCWidth.wcwidth(codePoint));
    }
    return width;
  }
}
