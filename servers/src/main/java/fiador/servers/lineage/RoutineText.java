package fiador.servers.lineage;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;

/**
 * The tables and views that a routine's body names and may read, whatever language it is in, with
 * the columns it names; texts that are put together and run count as body. More than it really
 * reads, never less as long as it names what it reads.
 */
public final class RoutineText {
  private static final Set<String> READING = Set.of("select", "table", "returning", "values");
  private static final Set<String> RUNNING = Set.of("execute", "prepare", "immediate", "query");
  private static final Pattern TAG = Pattern.compile("\\$\\w*\\$");
  private static final Set<String> BEFORE_STAR = Set.of("select", "distinct", "all", ".", ",");

  /** A word, a quoted name or a sign. */
  private record Token(String text, boolean isName) {
    boolean is(String word) {
      return text.equalsIgnoreCase(word);
    }
  }

  private final char quote;
  private final boolean backslashes;
  private final UnaryOperator<String> folded;
  private final List<Token> tokens = new ArrayList<>();
  private final List<String> literals = new ArrayList<>();

  private RoutineText(char quote, boolean backslashes, UnaryOperator<String> folded) {
    this.quote = quote;
    this.backslashes = backslashes;
    this.folded = folded;
  }

  /**
   * What a body may read.
   *
   * @param quote what quotes names: " or `
   * @param backslashes whether a backslash in a literal takes the next character along
   * @param folded what the server makes of a name without quotes
   * @return by node the ordinals of the columns that are named; all where a star stands somewhere
   */
  public static Map<Integer, BitSet> reads(
      String body,
      char quote,
      boolean backslashes,
      UnaryOperator<String> folded,
      Relations relations) {
    RoutineText text = new RoutineText(quote, backslashes, folded);
    text.split(body);
    if (text.has(RUNNING)) {
      for (String literal : List.copyOf(text.literals)) {
        text.split(literal);
      }
    }
    return text.has(READING) ? text.found(relations) : Map.of();
  }

  private boolean has(Set<String> words) {
    return tokens.stream().anyMatch(token -> words.contains(token.text.toLowerCase(Locale.ROOT)));
  }

  private Map<Integer, BitSet> found(Relations relations) {
    Set<String> words = new HashSet<>();
    boolean star = false;
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      if (token.isName()) {
        words.add(token.text());
      }
      boolean all = i > 0 && BEFORE_STAR.contains(tokens.get(i - 1).text.toLowerCase(Locale.ROOT));
      star |= token.is("*") && all;
    }
    boolean everything = star;
    Map<Integer, BitSet> found = new LinkedHashMap<>();
    Function<Integer, BitSet> named =
        node -> {
          BitSet columns = new BitSet();
          List<String> names = relations.columns(node);
          for (int ordinal = 0; ordinal < names.size(); ordinal++) {
            columns.set(ordinal, everything || words.contains(names.get(ordinal)));
          }
          return columns;
        };
    for (int i = 0; i < tokens.size(); i++) {
      if (!tokens.get(i).isName() || isWrittenTo(i) || at(i - 1).is(".")) {
        continue;
      }
      boolean qualified = at(i + 1).is(".") && at(i + 2).isName();
      int node = qualified ? relations.node(tokens.get(i).text(), at(i + 2).text()) : -1;
      node = node < 0 && !qualified ? relations.node(null, tokens.get(i).text()) : node;
      if (node >= 0) {
        found.computeIfAbsent(node, named);
      }
    }
    return found;
  }

  private Token at(int place) {
    return place < 0 || place >= tokens.size() ? new Token("", false) : tokens.get(place);
  }

  private boolean isWrittenTo(int place) {
    Token before = at(place - 1);
    Token first = at(place - 2);
    return before.is("into") && first.is("insert")
        || before.is("update")
        || before.is("from") && first.is("delete")
        || before.is("table") && first.is("truncate");
  }

  private void split(String text) {
    int at = 0;
    while (at < text.length()) {
      char c = text.charAt(at);
      if (c == '-' && text.startsWith("--", at) || c == '#' && quote == '`') {
        int end = text.indexOf('\n', at);
        at = end < 0 ? text.length() : end;
      } else if (text.startsWith("/*", at)) {
        int end = text.indexOf("*/", at);
        at = end < 0 ? text.length() : end + 2;
      } else if (c == '\'' || c == quote || c == '"') {
        int end = QuotedNames.end(text, at, c, backslashes && c != quote);
        String twice = String.valueOf(c) + c;
        String bare = text.substring(at + 1, Math.max(at + 1, end - 1));
        bare = bare.replace(twice, String.valueOf(c));
        if (c == quote) {
          tokens.add(new Token(bare, true));
        } else {
          literals.add(bare);
          tokens.add(new Token("''", false));
        }
        at = end;
      } else if (c == '$'
          && quote == '"'
          && TAG.matcher(text).region(at, text.length()).lookingAt()) {
        // what stands between such tags is a text that may be run, so it counts as body
        at = text.indexOf('$', at + 1) + 1;
      } else if (Character.isLetter(c) || c == '_') {
        int end = at + 1;
        while (end < text.length()
            && (Character.isLetterOrDigit(text.charAt(end))
                || "_$".indexOf(text.charAt(end)) >= 0)) {
          end++;
        }
        tokens.add(new Token(folded.apply(text.substring(at, end)), true));
        at = end;
      } else {
        if (!Character.isWhitespace(c)) {
          tokens.add(new Token(String.valueOf(c), false));
        }
        at++;
      }
    }
  }
}
