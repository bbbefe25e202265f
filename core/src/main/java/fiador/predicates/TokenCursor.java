package fiador.predicates;

import java.util.List;

/** Goes through the words and signs of a predicate, one after the other. */
abstract class TokenCursor {
  private final List<Token> tokens;
  private int next;

  TokenCursor(List<Token> tokens) {
    this.tokens = tokens;
  }

  /** The next word or sign, which is taken. */
  final Token take() {
    return tokens.get(next++);
  }

  /** Puts the last one back. */
  final void back() {
    next--;
  }

  /** The next word or sign, which stays. */
  final Token token() {
    return tokens.get(next);
  }

  /** Takes the next if it is that one. */
  final boolean skip(String wordOrSign) {
    boolean is = token().is(wordOrSign);
    next += is ? 1 : 0;
    return is;
  }

  final void need(String wordOrSign) throws PredicateException {
    if (!skip(wordOrSign)) {
      throw unexpected("\"" + wordOrSign + "\"");
    }
  }

  final PredicateException unexpected(String expected) {
    return new PredicateException(
        "found " + token().shown() + ", expected " + expected, token().at());
  }

  /** A dotted or quoted name in parentheses. */
  final String argument(String what) throws PredicateException {
    need("(");
    StringBuilder name = new StringBuilder();
    do {
      Token part = token();
      boolean isName = part.kind() == Token.Kind.WORD || part.kind() == Token.Kind.QUOTED;
      if (!isName) {
        throw unexpected(what);
      }
      name.append(name.length() == 0 ? "" : ".").append(part.text());
      next++;
    } while (skip("."));
    need(")");
    return name.toString();
  }

  /** A whole number. */
  final int whole(int least) throws PredicateException {
    Token number = token();
    if (number.kind() == Token.Kind.NUMBER && number.text().matches("\\d{1,6}")) {
      int value = Integer.parseInt(number.text());
      if (value >= least) {
        next++;
        return value;
      }
    }
    throw unexpected("a whole number from " + least + " on");
  }
}
