package fiador.report.shown;

/**
 * Characters that cannot be seen, or that change how others are seen: controls of a terminal, marks
 * that turn the direction of writing, and all that takes no room. A name may hold any of them, and
 * would rewrite what an administrator reads; so they are written as {@code \}{@code u} with four
 * digits, which JSON reads back as what they were.
 */
public final class Visible {
  private static final String LETTERS_WITHOUT_SHAPE =
      "\u034f\u115f\u1160\u17b4\u17b5\u3164\uffa0\u2800";

  private Visible() {}

  /** Whether a character may be shown as it is. Ends of lines and tabs are controls here too. */
  public static boolean is(int codePoint) {
    if (codePoint >= ' ' && codePoint < 0x7f) {
      return true;
    }
    return switch (Character.getType(codePoint)) {
      case Character.CONTROL,
          Character.FORMAT,
          Character.LINE_SEPARATOR,
          Character.PARAGRAPH_SEPARATOR,
          Character.PRIVATE_USE,
          Character.SURROGATE,
          Character.UNASSIGNED ->
          false;
      default -> LETTERS_WITHOUT_SHAPE.indexOf(codePoint) < 0;
    };
  }

  /** A text of one line, with everything in it to be seen. */
  public static String of(String text) {
    // plain loops: a short answer would wait for the first stream longer than for all of this
    int at = 0;
    while (at < text.length() && is(text.codePointAt(at))) {
      at += Character.charCount(text.codePointAt(at));
    }
    if (at == text.length()) {
      return text;
    }
    StringBuilder seen = new StringBuilder(text.length() + 16).append(text, 0, at);
    while (at < text.length()) {
      int codePoint = text.codePointAt(at);
      if (is(codePoint)) {
        seen.appendCodePoint(codePoint);
      } else {
        append(seen, codePoint);
      }
      at += Character.charCount(codePoint);
    }
    return seen.toString();
  }

  private static void append(StringBuilder to, int codePoint) {
    for (char unit : Character.toChars(codePoint)) {
      to.append(written(unit));
    }
  }

  /** How one unit of a text is written where it cannot be shown. */
  static String written(char unit) {
    return String.format("\\u%04x", (int) unit);
  }
}
