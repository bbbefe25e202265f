package fiador.predicates;

import fiador.estate.ColumnType;
import fiador.estate.None;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Coalesce;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Extract;
import fiador.predicates.Expression.Field;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.IsNull;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Length;
import fiador.predicates.Expression.Like;
import fiador.predicates.Expression.Literal;
import fiador.predicates.Expression.Lookup;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Operate;
import fiador.predicates.Expression.Operation;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.Session;
import fiador.predicates.Expression.Substring;
import fiador.predicates.Expression.UserName;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Reads predicates by recursive descent:
 *
 * <pre>
 * or     = and {"or" and}            and = not {"and" not}        not = ["not"] test
 * test   = sum [("=" | "&lt;&gt;" | "&lt;" | ...) sum | ["not"] "in" list | ["not"] "between" sum "and" sum
 *        | ["not"] "like" text | "is" ["not"] ("null" | "true")]
 * list   = "(" sum {"," sum} ")" | user.ATTRIBUTE | lookup(NAME)
 * sum    = term {("+" | "-" | "||") term}      term = factor {"*" factor}
 * factor = literal | column | user.name | user.ATTRIBUTE | holds(ROLE) | "(" or ")" | "-" factor
 *        | char_length(sum) | substring(sum from N for N) | coalesce(sum, ...)
 *        | extract(year|month|day from sum)
 * </pre>
 */
public final class PredicateReader extends TokenCursor {
  private static final int DEEPEST = 100;
  private static final int LONGEST = 20_000;

  private final IdentityHashMap<Expression, Integer> places = new IdentityHashMap<>();
  private int depth;

  private PredicateReader(List<Token> tokens) {
    super(tokens);
  }

  /**
   * What was read.
   *
   * @param expression columns are names so far
   * @param places where each part begins, by identity
   */
  public record Read(Expression expression, Map<Expression, Integer> places) {
    /** Where a part begins, 0 when not known. */
    int at(Expression part) {
      return places.getOrDefault(part, 0);
    }
  }

  /**
   * Reads a predicate.
   *
   * @throws PredicateException at the first word that does not fit
   */
  public static Read read(String text) throws PredicateException {
    if (text.length() > LONGEST) {
      throw new PredicateException("longer than " + LONGEST + " characters", LONGEST);
    }
    PredicateReader reader = new PredicateReader(Token.of(text));
    Expression expression = reader.or();
    if (reader.token().kind() != Token.Kind.END) {
      throw reader.unexpected("\"and\", \"or\" or the end");
    }
    return new Read(expression, reader.places);
  }

  private Expression at(int place, Expression expression) {
    if (expression != Expression.TRUE && expression != Expression.FALSE) {
      places.putIfAbsent(expression, place);
    }
    return expression;
  }

  private Expression or() throws PredicateException {
    int place = token().at();
    List<Expression> parts = new ArrayList<>();
    do {
      parts.add(and());
    } while (skip("or"));
    return parts.size() == 1 ? parts.get(0) : at(place, new Or(List.copyOf(parts)));
  }

  private Expression and() throws PredicateException {
    int place = token().at();
    List<Expression> parts = new ArrayList<>();
    do {
      parts.add(not());
    } while (skip("and"));
    return parts.size() == 1 ? parts.get(0) : at(place, new And(List.copyOf(parts)));
  }

  private Expression not() throws PredicateException {
    int place = token().at();
    if (++depth > DEEPEST) {
      throw new PredicateException("nested deeper than " + DEEPEST + " levels", place);
    }
    Expression read = skip("not") ? at(place, new Not(not())) : test();
    depth--;
    return read;
  }

  private Expression test() throws PredicateException {
    int place = token().at();
    Expression left = sum();
    for (Comparison how : Comparison.values()) {
      if (skip(how.sign())) {
        return at(place, new Compare(how, left, sum()));
      }
    }
    if (skip("is")) {
      boolean not = skip("not");
      boolean truth = skip("true");
      if (!truth) {
        need("null");
      }
      return negated(not, place, truth ? new IsTrue(left) : new IsNull(left));
    }
    boolean not = skip("not");
    if (skip("in")) {
      return negated(not, place, new In(left, list()));
    } else if (skip("between")) {
      Expression low = new Compare(Comparison.AT_LEAST, left, sum());
      need("and");
      Expression high = new Compare(Comparison.AT_MOST, left, sum());
      List<Expression> both = List.of(at(place, low), at(place, high));
      return negated(not, place, new And(both));
    } else if (skip("like")) {
      if (token().kind() != Token.Kind.TEXT) {
        throw unexpected("a pattern in single quotes");
      }
      return negated(not, place, new Like(left, take().text()));
    } else if (not) {
      throw unexpected("\"in\", \"between\" or \"like\"");
    }
    return left;
  }

  private Expression negated(boolean not, int place, Expression test) {
    Expression plain = at(place, test);
    return not ? at(place, new Not(plain)) : plain;
  }

  private List<Expression> list() throws PredicateException {
    int place = token().at();
    if (skip("lookup")) {
      return List.of(at(place, new Lookup(argument("a lookup's name"), ColumnType.TEXT)));
    } else if (token().is("user")) {
      Expression attribute = factor();
      return List.of(attribute);
    }
    if (!skip("(")) {
      throw unexpected("values in parentheses, user.ATTRIBUTE or lookup(NAME)");
    }
    List<Expression> options = new ArrayList<>();
    do {
      options.add(sum());
    } while (skip(","));
    need(")");
    return List.copyOf(options);
  }

  private Expression sum() throws PredicateException {
    int place = token().at();
    Expression left = term();
    for (int length = 0; ; length++) {
      notTooLong(length, place);
      Operation how = null;
      for (Operation one : List.of(Operation.PLUS, Operation.MINUS, Operation.JOINED)) {
        how = how == null && skip(one.sign()) ? one : how;
      }
      if (how == null) {
        return left;
      }
      left = at(place, new Operate(how, left, term()));
    }
  }

  private Expression term() throws PredicateException {
    int place = token().at();
    Expression left = factor();
    for (int length = 0; skip("*"); length++) {
      notTooLong(length, place);
      left = at(place, new Operate(Operation.TIMES, left, factor()));
    }
    return left;
  }

  /** Each further operand stands a level deeper. */
  private static void notTooLong(int length, int place) throws PredicateException {
    if (length > DEEPEST) {
      throw new PredicateException("more than " + DEEPEST + " operands in a row", place);
    }
  }

  private Expression factor() throws PredicateException {
    Token token = token();
    if (++depth > DEEPEST) {
      throw new PredicateException("nested deeper than " + DEEPEST + " levels", token.at());
    }
    Expression read = at(token.at(), unplaced(token));
    depth--;
    return read;
  }

  private Expression unplaced(Token token) throws PredicateException {
    take();
    switch (token.kind()) {
      case NUMBER:
        return number(token.text());
      case TEXT:
        return Expression.text(token.text());
      case QUOTED:
        return new Column(
            '"' + token.text().replace("\"", "\"\"") + '"', None.COLUMN, ColumnType.OTHER);
      case SIGN:
        return sign(token);
      case WORD:
        return word(token);
      default:
        back();
        throw unexpected("a column, a value or a function");
    }
  }

  private static Expression number(String text) {
    return Expression.number(new BigDecimal(text));
  }

  private Expression sign(Token token) throws PredicateException {
    if (token.is("(")) {
      Expression inside = or();
      need(")");
      return inside;
    } else if (token.is("-")) {
      if (token().kind() == Token.Kind.NUMBER) {
        return number("-" + take().text());
      }
      return new Operate(Operation.MINUS, number("0"), factor());
    }
    back();
    throw unexpected("a column, a value or a function");
  }

  private Expression word(Token token) throws PredicateException {
    boolean call = token().is("(");
    switch (token.text().toLowerCase(Locale.ROOT)) {
      case "true":
        return Expression.TRUE;
      case "false":
        return Expression.FALSE;
      case "unknown":
        return Expression.UNKNOWN;
      case "date", "timestamp":
        if (token().kind() == Token.Kind.TEXT) {
          return dated(token);
        }
        break;
      case "user":
        if (token().is(".")) {
          return ofUser();
        }
        break;
      case "session":
        if (token().is(".")) {
          return ofSession();
        }
        break;
      case "holds":
        if (call) {
          return new Holds(argument("a role"));
        }
        break;
      case "lookup":
        if (call) {
          throw new PredicateException("lookup(...) stands only behind \"in\"", token.at());
        }
        break;
      case "char_length", "substring", "coalesce", "extract":
        if (call) {
          return function(token.text().toLowerCase(Locale.ROOT));
        }
        break;
      case "and", "or", "not", "in", "is", "like", "between", "null":
        back();
        throw unexpected("a column, a value or a function");
      default:
        if (call) {
          throw new PredicateException(
              "there is no function "
                  + token.text()
                  + "; there are char_length, substring, coalesce, extract, holds and lookup",
              token.at());
        }
    }
    return new Column(token.text(), None.COLUMN, ColumnType.OTHER);
  }

  private Expression dated(Token token) throws PredicateException {
    ColumnType type = ColumnType.named(token.text().toLowerCase(Locale.ROOT));
    Token literal = take();
    try {
      return new Literal(Values.of(literal.text(), type), type);
    } catch (IllegalArgumentException not) {
      throw new PredicateException(not.getMessage(), literal.at());
    }
  }

  private Expression ofUser() throws PredicateException {
    need(".");
    Token attribute = token();
    if (attribute.kind() != Token.Kind.WORD && attribute.kind() != Token.Kind.QUOTED) {
      throw unexpected("\"name\" or an attribute");
    }
    take();
    boolean name = attribute.is("name") && attribute.kind() == Token.Kind.WORD;
    return name ? new UserName() : new Attribute(attribute.text(), ColumnType.TEXT);
  }

  private Expression ofSession() throws PredicateException {
    need(".");
    Token word = token();
    for (SessionFact fact : SessionFact.values()) {
      if (skip(fact.text())) {
        return new Session(fact);
      }
    }
    throw new PredicateException(
        "there is no session." + word.text() + "; there are session.application, session.address",
        word.at());
  }

  private Expression function(String name) throws PredicateException {
    need("(");
    Expression read;
    if (name.equals("char_length")) {
      read = new Length(sum());
    } else if (name.equals("substring")) {
      Expression text = sum();
      need("from");
      int from = whole(1);
      need("for");
      read = new Substring(text, from, whole(0));
    } else if (name.equals("coalesce")) {
      List<Expression> values = new ArrayList<>();
      do {
        values.add(sum());
      } while (skip(","));
      read = new Coalesce(List.copyOf(values));
    } else {
      Field field = null;
      for (Field one : Field.values()) {
        field = skip(one.name()) ? one : field;
      }
      if (field == null) {
        throw unexpected("year, month or day");
      }
      need("from");
      read = new Extract(field, sum());
    }
    need(")");
    return read;
  }
}
