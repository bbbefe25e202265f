package fiador.files.usage;

import java.util.ArrayList;
import java.util.List;

/**
 * The words of a statement: names, signs, and nothing of what stands in quotes or comments. Reads
 * any text without failing.
 */
final class SqlWords {
  /**
   * A word.
   *
   * @param text a name without its quotes, or one sign
   * @param isName whether it is a name or keyword
   * @param quoted whether it stood in quotes that keep its letters
   */
  record Word(String text, boolean isName, boolean quoted) {
    boolean is(String sign) {
      return text.equals(sign) && !quoted;
    }
  }

  private SqlWords() {}

  /** The words of a piece of a statement in which no backslash stands for anything. */
  static List<Word> of(String sql) {
    return of(sql, false);
  }

  /**
   * The words of a statement.
   *
   * @param backslashes whether a backslash in quotes goes with the sign after it, as on MariaDB; on
   *     PostgreSQL that is so in quotes with an {@code E} before them
   */
  static List<Word> of(String sql, boolean backslashes) {
    return of(sql, backslashes, new StringBuilder());
  }

  /**
   * As the other.
   *
   * @param shape gets the statement without its comments, numbers and texts: two statements of one
   *     shape have the same words but for numbers, and say the same
   */
  static List<Word> of(String sql, boolean backslashes, StringBuilder shape) {
    List<Word> words = new ArrayList<>();
    int at = 0;
    while (at < sql.length()) {
      char c = sql.charAt(at);
      if (Character.isWhitespace(c)) {
        at++;
      } else if (sql.startsWith("--", at)) {
        int end = sql.indexOf('\n', at);
        at = end < 0 ? sql.length() : end;
      } else if (sql.startsWith("/*", at)) {
        int end = sql.indexOf("*/", at + 2);
        at = end < 0 ? sql.length() : end + 2;
      } else if (c == '\'') {
        boolean escapes = at > 0 && "eE".indexOf(sql.charAt(at - 1)) >= 0;
        at = afterQuotes(sql, at, backslashes || escapes);
        shape.append("'");
      } else if (c == '"' || c == '`') {
        int end = afterQuotes(sql, at, backslashes && c == '"');
        String inside = sql.substring(at + 1, Math.max(at + 1, end - 1));
        words.add(new Word(inside.replace("" + c + c, "" + c), true, true));
        shape.append(sql, at, end);
        at = end;
      } else if (Character.isLetter(c) || c == '_') {
        int end = at;
        while (end < sql.length()
            && (Character.isLetterOrDigit(sql.charAt(end)) || "_$".indexOf(sql.charAt(end)) >= 0)) {
          end++;
        }
        words.add(new Word(sql.substring(at, end), true, false));
        shape.append(sql, at, end).append(' ');
        at = end;
      } else {
        words.add(new Word(String.valueOf(c), false, false));
        boolean number = c >= '0' && c <= '9';
        if (!number || shape.isEmpty() || shape.charAt(shape.length() - 1) != '0') {
          shape.append(number ? '0' : c);
        }
        at++;
      }
    }
    return words;
  }

  private static int afterQuotes(String sql, int start, boolean escapes) {
    char quote = sql.charAt(start);
    int at = start + 1;
    while (at < sql.length()) {
      if (escapes && sql.charAt(at) == '\\') {
        at++;
      } else if (sql.charAt(at) == quote) {
        if (at + 1 >= sql.length() || sql.charAt(at + 1) != quote) {
          return at + 1;
        }
        at++;
      }
      at++;
    }
    return sql.length();
  }
}
