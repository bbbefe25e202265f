package fiador.sqltext;

import fiador.sqltext.SqlToken.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The pieces of a text together with those of the texts that stand in it, where these may be run.
 */
public final class Inside {
  /** Whoever writes a text may hide one in one in one; below this every word is a name. */
  private static final int DEEPEST = 8;

  private static final Pattern WORD_OR_SIGN =
      Pattern.compile("[\\w$\\x{80}-\\x{10ffff}]+|[^\\w\\s]");

  private final SqlReader reader;
  private final Predicate<SqlToken> opened;
  private final List<SqlToken> all = new ArrayList<>();

  private Inside(SqlReader reader, Predicate<SqlToken> opened) {
    this.reader = reader;
    this.opened = opened;
  }

  /**
   * The pieces in their order. Those of a text stand in its place; what is opened and is a name, or
   * may be one, is there as well.
   *
   * @param opened what is read as a text of its own
   */
  public static List<SqlToken> of(SqlReader reader, String sql, Predicate<SqlToken> opened) {
    Inside inside = new Inside(reader, opened);
    inside.add(sql, 1);
    return inside.all;
  }

  /**
   * All words and signs of a text in a language nobody here can read, each word as a name whatever
   * quotes or comments it stands in.
   */
  public static List<SqlToken> flat(String text) {
    List<SqlToken> all = new ArrayList<>();
    Matcher found = WORD_OR_SIGN.matcher(text);
    while (found.find()) {
      char first = found.group().charAt(0);
      boolean word = Character.isLetterOrDigit(first) || first == '_' || first >= 0x80;
      Kind kind = word || first == '$' ? Kind.NAME : Kind.SIGN;
      all.add(new SqlToken(kind, found.group(), (char) 0, found.start(), found.end()));
    }
    return all;
  }

  private void add(String sql, int depth) {
    for (SqlToken token : reader.tokens(sql)) {
      boolean open = opened.test(token);
      if (!open || token.isName() || token.quote() == '"') {
        all.add(token);
      }
      if (open && depth < DEEPEST) {
        add(token.text(), depth + 1);
      } else if (open) {
        all.addAll(flat(token.text()));
      }
    }
  }
}
