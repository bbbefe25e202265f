package fiador.predicates;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A word of a predicate.
 *
 * @param kind what it is
 * @param text names and literals without their quotes; signs and words as they are
 * @param at where it begins, counted from 0
 */
record Token(Kind kind, String text, int at) {
  enum Kind {
    WORD,
    QUOTED,
    TEXT,
    NUMBER,
    SIGN,
    END
  }

  private static final Pattern NEXT =
      Pattern.compile(
          "\\s*(?:(?<number>\\d+(?:\\.\\d+)?)|(?<word>[\\p{L}_][\\p{L}\\p{Nd}_$]*)"
              + "|(?<text>'(?:[^']|'')*+')|(?<quoted>\"(?:[^\"]|\"\")++\")"
              + "|(?<sign><>|<=|>=|\\|\\||[=<>+*(),.-])|(?<end>\\z))");

  /** What separates words: what the pattern skips, and nothing else that looks like it. */
  private static final String BLANKS = " \t\n\u000B\f\r";

  /** The words of a text. */
  static List<Token> of(String text) throws PredicateException {
    List<Token> found = new ArrayList<>();
    Matcher next = NEXT.matcher(text);
    for (int at = 0; ; at = next.end()) {
      next.region(at, text.length());
      if (!next.lookingAt()) {
        int from = at + leadingBlanks(text, at);
        char odd = text.charAt(from);
        boolean open = odd == '\'' || odd == '"';
        throw new PredicateException(
            open ? "the quote " + odd + " is not closed" : "\"" + odd + "\" has no meaning here",
            from);
      }
      Token token = of(next);
      found.add(token);
      if (token.kind() == Kind.END) {
        return found;
      }
    }
  }

  private static int leadingBlanks(String text, int from) {
    int at = from;
    while (at < text.length() && BLANKS.indexOf(text.charAt(at)) >= 0) {
      at++;
    }
    return at - from;
  }

  private static Token of(Matcher next) {
    if (next.group("number") != null) {
      return new Token(Kind.NUMBER, next.group("number"), next.start("number"));
    } else if (next.group("word") != null) {
      return new Token(Kind.WORD, next.group("word"), next.start("word"));
    } else if (next.group("text") != null) {
      return new Token(Kind.TEXT, inner(next.group("text"), "'"), next.start("text"));
    } else if (next.group("quoted") != null) {
      return new Token(Kind.QUOTED, inner(next.group("quoted"), "\""), next.start("quoted"));
    } else if (next.group("sign") != null) {
      return new Token(Kind.SIGN, next.group("sign"), next.start("sign"));
    }
    return new Token(Kind.END, "", next.start("end"));
  }

  private static String inner(String text, String quote) {
    return text.substring(1, text.length() - 1).replace(quote + quote, quote);
  }

  boolean is(String wordOrSign) {
    return kind == Kind.SIGN && text.equals(wordOrSign)
        || kind == Kind.WORD && text.equalsIgnoreCase(wordOrSign);
  }

  /** As messages show it. */
  String shown() {
    return switch (kind) {
      case END -> "the end";
      case TEXT -> "'" + text + "'";
      default -> "\"" + text + "\"";
    };
  }
}
