package fiador.sqltext;

/** What can stand for a character in quotes. */
enum Escapes {
  /** Only the quote itself, twice. */
  NONE,
  /** A backslash before one character. */
  SHORT,
  /** Also before the number of a character. */
  LONG;

  private static final String LETTERS = "ntrb0Z";
  private static final String MEANT = "\n\t\r\b\0\u001a";

  /**
   * What stands in quotes.
   *
   * @param bare without the quotes around it
   */
  static void undo(String bare, char quote, Escapes escapes, StringBuilder into) {
    int at = 0;
    while (at < bare.length()) {
      char c = bare.charAt(at);
      if (c == quote) {
        into.append(c);
        at += 2;
      } else if (c == '\\' && escapes != NONE && at + 1 < bare.length()) {
        int numbered = escapes == LONG ? number(bare, at + 1, into) : at + 1;
        at = numbered > at + 1 ? numbered : letter(bare, at + 1, escapes, into);
      } else {
        into.append(c);
        at++;
      }
    }
  }

  private static int letter(String bare, int at, Escapes escapes, StringBuilder into) {
    char c = bare.charAt(at);
    int known = LETTERS.indexOf(c);
    boolean counts = escapes == SHORT || known >= 0 && known < 4 || c == 'f';
    if (counts && known >= 0) {
      into.append(MEANT.charAt(known));
    } else if (c == 'f' && escapes == LONG) {
      into.append('\f');
    } else {
      if (escapes == SHORT && (c == '%' || c == '_')) {
        // they keep the backslash, for patterns
        into.append('\\');
      }
      into.append(c);
    }
    return at + 1;
  }

  /** A character by its number; gives where it began if there is none. */
  private static int number(String bare, int at, StringBuilder into) {
    char c = bare.charAt(at);
    return switch (c) {
      case 'x' -> digits(bare, at + 1, 16, 1, 2, into, at);
      case 'u' -> digits(bare, at + 1, 16, 4, 4, into, at);
      case 'U' -> digits(bare, at + 1, 16, 8, 8, into, at);
      default -> digits(bare, at, 8, 1, 3, into, at);
    };
  }

  private static int digits(
      String bare, int from, int radix, int least, int most, StringBuilder into, int nothing) {
    int end = from;
    while (end < bare.length()
        && end - from < most
        && Character.digit(bare.charAt(end), radix) >= 0) {
      end++;
    }
    if (end - from < least) {
      return nothing;
    }
    return append(bare.substring(from, end), radix, into) ? end : nothing;
  }

  private static boolean append(String digits, int radix, StringBuilder into) {
    long point = Long.parseLong(digits, radix);
    if (point > Character.MAX_CODE_POINT) {
      return false;
    }
    into.appendCodePoint((int) point);
    return true;
  }

  /** What a text in code points says: {@code \0041} and {@code \+000041} are an A. */
  static String codePoints(String raw, char escape) {
    StringBuilder meant = new StringBuilder();
    int at = 0;
    while (at < raw.length()) {
      char c = raw.charAt(at);
      if (c != escape) {
        meant.append(c);
        at++;
        continue;
      }
      boolean twice = at + 1 < raw.length() && raw.charAt(at + 1) == escape;
      boolean longer = at + 1 < raw.length() && raw.charAt(at + 1) == '+';
      int from = longer ? at + 2 : at + 1;
      int wide = longer ? 6 : 4;
      int end = twice ? at : digits(raw, from, 16, wide, wide, meant, at);
      if (end == at) {
        meant.append(c);
        end = at + (twice ? 2 : 1);
      }
      at = end;
    }
    return meant.toString();
  }
}
