package fiador.standin.keeping;

import java.sql.SQLException;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** What the engine says when it does not carry a statement out. */
public final class Engine {
  private static final int NO_COLUMN = 42122;

  /** Mistakes in how a statement is written; all else could tell of values that stand in rows. */
  private static final Set<Integer> ABOUT_TEXT = Set.of(42000, 42001, 42122, 90016, 90059, 21002);

  private static final Pattern NAME = Pattern.compile("\"([^\"]+)\"");
  private static final Pattern OURS = Pattern.compile("\"ROWS\"\\.|[TV][0-9A-F]{24}");
  private static final int TIMEOUT = 57014;

  private Engine() {}

  /** What may be said of it: no value, and no name that is not the asker's own. */
  public static String said(SQLException wrong) {
    if (wrong.getErrorCode() == TIMEOUT) {
      return "the statement took too long";
    }
    String first = String.valueOf(wrong.getMessage()).lines().findFirst().orElse("");
    String what = first.replaceFirst(";? ?SQL statement:.*", "");
    boolean own = ABOUT_TEXT.contains(wrong.getErrorCode()) && !OURS.matcher(what).find();
    return own && wrong.getErrorCode() != 42000 && wrong.getErrorCode() != 42001
        ? what
        : "the statement does not work on what is there (" + wrong.getSQLState() + ")";
  }

  /** The column that was not found, is there, and may not be read by the asker; null for none. */
  public static @Nullable String missed(SQLException wrong, Map<String, String> hidden) {
    Matcher name = NAME.matcher(String.valueOf(wrong.getMessage()));
    if (wrong.getErrorCode() != NO_COLUMN || !name.find()) {
      return null;
    }
    String column = name.group(1).replaceFirst("^.*\\.", "");
    return hidden.get(column.toLowerCase(Locale.ROOT));
  }
}
