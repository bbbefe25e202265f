package fiador.servers.lineage;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A statement's text with a plain word in the place of each quoted name, because the parser does
 * not know quotes within quotes; and the way back from such a word to the name.
 */
public final class QuotedNames {
  /** MariaDB writes casts with the text's encoding, which the parser does not know. */
  private static final Pattern CHARSET = Pattern.compile(" charset \\w+");

  private final List<String> names = new ArrayList<>();
  private final String word;
  private final String text;
  private final UnaryOperator<String> folded;

  /**
   * Replaces them.
   *
   * @param quote what quotes names there: " or `
   * @param backslashes whether a backslash in a literal takes the next character along
   * @param folded what the server makes of a name without quotes
   */
  public QuotedNames(
      String statement, char quote, boolean backslashes, UnaryOperator<String> folded) {
    this.folded = folded;
    String free = "n";
    while (statement.toLowerCase(java.util.Locale.ROOT).contains(free)) {
      free += "q";
    }
    this.word = free;
    StringBuilder plain = new StringBuilder(statement.length());
    int at = 0;
    while (at < statement.length()) {
      char c = statement.charAt(at);
      if (c == '\'') {
        int end = end(statement, at, '\'', backslashes);
        plain.append(statement, at, end);
        at = end;
      } else if (c == quote) {
        int end = end(statement, at, quote, false);
        String twice = String.valueOf(quote) + quote;
        plain.append(word).append(names.size());
        // one that is not closed at the text's end is all of the rest
        int inside = Math.max(at + 1, end - 1);
        names.add(statement.substring(at + 1, inside).replace(twice, String.valueOf(quote)));
        at = end;
      } else {
        plain.append(c);
        at++;
      }
    }
    this.text = quote == '`' ? CHARSET.matcher(plain).replaceAll("") : plain.toString();
  }

  /** Behind the closing quote; a doubled one is none. */
  static int end(String text, int start, char quote, boolean backslashes) {
    int at = start + 1;
    while (at < text.length()) {
      char c = text.charAt(at);
      if (c == '\\' && backslashes) {
        at += 2;
        continue;
      }
      boolean doubled = c == quote && at + 1 < text.length() && text.charAt(at + 1) == quote;
      if (c == quote && !doubled) {
        return at + 1;
      }
      at += doubled ? 2 : 1;
    }
    return text.length();
  }

  /**
   * Two quoted names with a dot between: a schema and what is in it, or a table and its column; a
   * third may follow, a column, or a routine of a package.
   *
   * @param called whether a parenthesis follows, as behind the name of a routine
   */
  public record Pair(String first, String second, boolean called) {}

  /**
   * All pairs of the text. Where a server quotes every name it keeps, as MariaDB does, a routine
   * cannot be called without being one of them, whatever else a parser makes of the text.
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
    return at >= 0 && at < names.size() ? names.get(at) : folded.apply(parsed);
  }
}
