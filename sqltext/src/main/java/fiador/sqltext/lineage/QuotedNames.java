package fiador.sqltext.lineage;

import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A statement's text with a plain word in the place of each quoted name, because the parser does
 * not know quotes within quotes, and without its comments; and the way back from such a word to the
 * name.
 */
public final class QuotedNames {
  private final List<String> names = new ArrayList<>();
  private final String word;
  private final String text;
  private final HouseRules rules;

  /** Replaces them, in a text of the reader's server. */
  public QuotedNames(String statement, SqlReader reader) {
    this.rules = reader.rules();
    this.word = wordNotIn(statement.toLowerCase(Locale.ROOT));
    List<SqlToken> tokens = reader.tokens(statement);
    StringBuilder plain = new StringBuilder(statement.length());
    int end = 0;
    for (int i = 0; i < tokens.size(); i++) {
      SqlToken token = tokens.get(i);
      plain.append(token.start() > end && end > 0 ? " " : "");
      end = token.end();
      if (isEncoding(tokens, i)) {
        i++;
        end = tokens.get(i).end();
      } else if (token.isQuoted()) {
        plain.append(word).append(names.size());
        names.add(token.text());
      } else {
        plain.append(statement, token.start(), end);
      }
    }
    this.text = plain.toString();
  }

  private static String wordNotIn(String statement) {
    StringBuilder free = new StringBuilder("n");
    while (statement.contains(free)) {
      free.append('q');
    }
    return free.toString();
  }

  /**
   * {@code cast(x as char charset utf8mb4)}, which the parser does not know; where every name is
   * quoted, the word can mean nothing else.
   */
  private boolean isEncoding(List<SqlToken> tokens, int i) {
    return rules.has(HouseFact.KEEPS_NAMES_QUOTED)
        && tokens.get(i).isName()
        && tokens.get(i).is("charset")
        && i + 1 < tokens.size();
  }

  /**
   * Two quoted names with a dot between: a schema and what is in it, or a table and its column; a
   * third may follow, a column, or a routine of a package.
   *
   * @param called whether a parenthesis follows, as behind the name of a routine
   */
  public record Pair(String first, String second, boolean called) {}

  /**
   * All pairs of the text. Where a server quotes every name it keeps, a routine cannot be called
   * without being one of them, whatever else a parser makes of the text.
   */
  public List<Pair> pairs() {
    List<Pair> pairs = new ArrayList<>();
    Matcher pair =
        Pattern.compile(
                word + "(\\d{1,9})\\." + word + "(\\d{1,9})(?:\\." + word + "\\d{1,9})?(\\s*\\()?")
            .matcher(text);
    while (pair.find()) {
      String first = name(word + pair.group(1));
      String second = name(word + pair.group(2));
      pairs.add(new Pair(first, second, pair.group(3) != null));
    }
    return pairs;
  }

  /** The text for the parser. */
  public String text() {
    return text;
  }

  /** The name that a word of the parsed text stands for; null for none. */
  public String name(String parsed) {
    if (parsed == null) {
      return null;
    }
    boolean number = parsed.startsWith(word) && parsed.substring(word.length()).matches("\\d{1,9}");
    int at = number ? Integer.parseInt(parsed.substring(word.length())) : -1;
    return at >= 0 && at < names.size() ? names.get(at) : rules.fold(parsed);
  }
}
