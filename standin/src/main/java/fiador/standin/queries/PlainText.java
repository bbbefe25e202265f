package fiador.standin.queries;

import fiador.standin.estate.MistakeException;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * Whether a statement is written so plainly that everybody who reads it takes it apart in the same
 * way: the parser that looks for what it touches, and the engine that carries it out. Where two
 * could differ, something could be hidden from one of them.
 */
final class PlainText {
  private static final int LONGEST = 100_000;
  private static final String ODD = "`[]\\@#?{}$";

  /** A literal with letters before it means something else to each reader. */
  private static final Pattern PREFIXED = Pattern.compile("[\\p{L}\\p{N}_&]$");

  private static final Pattern ENGINE =
      Pattern.compile("information_schema|pg_catalog", Pattern.CASE_INSENSITIVE);

  private PlainText() {}

  static void check(String statement) throws MistakeException {
    if (statement.length() > LONGEST) {
      throw new MistakeException("a statement has " + LONGEST + " characters at most");
    }
    if (ENGINE.matcher(statement).find()) {
      throw new MistakeException("what there is stands in the schema catalog");
    }
    int at = 0;
    while (at < statement.length()) {
      char c = statement.charAt(at);
      if (c == '\'' || c == '"') {
        if (PREFIXED.matcher(statement.substring(Math.max(0, at - 1), at)).find()) {
          throw new MistakeException("letters before " + c + " mean nothing here");
        }
        at = behind(statement, at, c);
        continue;
      }
      boolean comment = statement.startsWith("--", at) || statement.startsWith("/*", at);
      if (comment || ODD.indexOf(c) >= 0 || c > 126 && !Character.isLetter(c)) {
        String what = comment ? "comments are" : "\"" + c + "\" is";
        throw new MistakeException(what + " not understood outside of quotes");
      }
      if (c == ';' && !statement.substring(at + 1).isBlank()) {
        throw new MistakeException("one statement at a time");
      }
      if (c < ' ' && "\t\n\r".indexOf(c) < 0) {
        throw new MistakeException("control characters are not understood");
      }
      at++;
    }
  }

  /** Where a quoted text or name ends; doubled quotes belong to it. */
  private static int behind(String statement, int from, char quote) throws MistakeException {
    int at = from + 1;
    while (at < statement.length()) {
      char c = statement.charAt(at);
      if (c == '\\' && quote == '\'' || c == 0) {
        throw new MistakeException("backslashes and nulls are not understood in texts");
      }
      if (c == quote) {
        if (at + 1 < statement.length() && statement.charAt(at + 1) == quote) {
          at += 2;
          continue;
        }
        return at + 1;
      }
      at++;
    }
    throw new MistakeException("a " + (quote == '"' ? "name" : "text") + " has no end");
  }

  /** A name as the engine reads it. */
  static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  /** A name as it was written, without its quotes; folded where it had none. */
  static String name(String written, java.util.function.UnaryOperator<String> folding) {
    return written.startsWith("\"")
        ? written.substring(1, written.length() - 1).replace("\"\"", "\"")
        : folding.apply(written);
  }

  static String lower(String word) {
    return word.toLowerCase(Locale.ROOT);
  }
}
