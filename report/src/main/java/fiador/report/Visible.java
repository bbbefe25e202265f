package fiador.report;

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
    if (text.codePoints().allMatch(Visible::is)) {
      return text;
    }
    StringBuilder seen = new StringBuilder(text.length() + 16);
    text.codePoints().forEach(codePoint -> append(seen, codePoint));
    return seen.toString();
  }

  /** As the other; what the program itself broke into lines stays so. */
  public static String lines(String text) {
    if (text.indexOf('\n') < 0) {
      return of(text);
    }
    StringBuilder seen = new StringBuilder(text.length() + 16);
    text.codePoints()
        .forEach(
            codePoint -> {
              if (codePoint == '\n') {
                seen.append('\n');
              } else {
                append(seen, codePoint);
              }
            });
    return seen.toString();
  }

  private static void append(StringBuilder to, int codePoint) {
    if (is(codePoint)) {
      to.appendCodePoint(codePoint);
      return;
    }
    for (char unit : Character.toChars(codePoint)) {
      to.append(written(unit));
    }
  }

  /** How one unit of a text is written where it cannot be shown. */
  static String written(char unit) {
    return String.format("\\u%04x", (int) unit);
  }
}
