package fiador.standin.keeping;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What veils do with texts, character by character: the engine counts some characters as two. Each
 * of nothing is nothing.
 */
public final class Texts {
  private static final int LONGEST = 1_000_000;

  private Texts() {}

  /** Makes them known to the engine. */
  static void provide(Connection keeper) throws SQLException {
    try (Statement statement = keeper.createStatement()) {
      statement.execute("CREATE SCHEMA IF NOT EXISTS \"TEXTS\"");
      for (String[] each :
          new String[][] {
            {"CHARACTERS", "length"},
            {"PART", "part"},
            {"PLACE", "place"},
            {"REPEATED", "repeated"},
            {"ALIKE", "alike"}
          }) {
        statement.execute("DROP ALIAS IF EXISTS \"TEXTS\".\"" + each[0] + "\"");
        statement.execute(
            "CREATE ALIAS \"TEXTS\".\""
                + each[0]
                + "\" DETERMINISTIC FOR '"
                + Texts.class.getName()
                + "."
                + each[1]
                + "'");
      }
    }
  }

  /** How many characters there are. */
  public static @Nullable Integer length(@Nullable String text) {
    return text == null ? null : text.codePointCount(0, text.length());
  }

  /** Some characters of it, from one on that is counted from 1; fewer where it ends before. */
  public static @Nullable String part(
      @Nullable String text, @Nullable Integer from, @Nullable Integer count) {
    if (text == null || from == null || count == null) {
      return null;
    }
    int all = text.codePointCount(0, text.length());
    long last = Math.min((long) all, (long) from - 1 + Math.max(0, count));
    int first = Math.max(0, Math.min(all, from - 1));
    if (last <= first) {
      return "";
    }
    int begin = text.offsetByCodePoints(0, first);
    return text.substring(begin, text.offsetByCodePoints(begin, (int) last - first));
  }

  /** Where a text first stands in another, counted from 1; 0 for nowhere. */
  public static @Nullable Integer place(@Nullable String what, @Nullable String text) {
    if (what == null || text == null) {
      return null;
    }
    int at = text.indexOf(what);
    return at < 0 ? 0 : text.codePointCount(0, at) + 1;
  }

  /** So often that text; no more than a million characters. */
  public static @Nullable String repeated(@Nullable String text, @Nullable Integer count) {
    if (text == null || count == null) {
      return null;
    }
    long length = (long) text.length() * Math.max(0, count);
    if (length > LONGEST) {
      throw new IllegalArgumentException("too long");
    }
    return text.repeat(Math.max(0, count));
  }

  /** Whether it is like a pattern with %, _ and | before what is to be taken as it is. */
  public static @Nullable Boolean alike(@Nullable String text, @Nullable String pattern) {
    if (text == null || pattern == null) {
      return null;
    }
    StringBuilder expression = new StringBuilder();
    int[] signs = pattern.codePoints().toArray();
    for (int i = 0; i < signs.length; i++) {
      if (signs[i] == '%') {
        expression.append(".*");
      } else if (signs[i] == '_') {
        expression.append('.');
      } else {
        i += signs[i] == '|' && i + 1 < signs.length ? 1 : 0;
        expression.append(Pattern.quote(Character.toString(signs[i])));
      }
    }
    return Pattern.compile(expression.toString(), Pattern.DOTALL).matcher(text).matches();
  }
}
