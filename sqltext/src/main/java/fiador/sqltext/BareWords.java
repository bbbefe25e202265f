package fiador.sqltext;

import java.util.Locale;
import java.util.Set;

/** Words of expressions that stand without parentheses and are no columns. */
public final class BareWords {
  private static final Set<String> VALUES =
      Set.of(
          "true",
          "false",
          "default",
          "current_user",
          "session_user",
          "user",
          "current_role",
          "current_date",
          "current_time",
          "current_timestamp",
          "localtime",
          "localtimestamp",
          "current_catalog",
          "current_schema");

  private BareWords() {}

  /** Whether a word is a value, unless there is a column of that name. */
  public static boolean isValue(String word) {
    return VALUES.contains(word.toLowerCase(Locale.ROOT));
  }
}
