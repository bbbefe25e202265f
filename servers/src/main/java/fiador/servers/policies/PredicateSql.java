package fiador.servers.policies;

import fiador.estate.ColumnType;
import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Coalesce;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Extract;
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
import fiador.predicates.Expression.Substring;
import fiador.predicates.SessionFact;
import fiador.predicates.Typing;
import fiador.predicates.Values;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * Writes predicates in one kind of server's SQL, so that they mean on the server what {@link
 * fiador.predicates.Evaluation} makes of them: texts are compared exactly whatever the collation,
 * numbers as decimals.
 */
public abstract class PredicateSql {
  /** The guarded schema's name, before the server folds it. */
  public static final String GUARD = "fiador_guard";

  private final String qualifier;

  /**
   * A writer.
   *
   * @param qualifier what stands before a column's name, with its dot; may be empty
   */
  protected PredicateSql(String qualifier) {
    this.qualifier = qualifier;
  }

  /** A name in SQL. */
  protected abstract String quoted(String name);

  /** A text as a literal that no setting of a session can change. */
  public abstract String literal(String text);

  /** A text as it is compared: exactly. */
  protected abstract String exact(String text, ColumnType type);

  /** Whether a user holds a role. */
  protected abstract String holds(String role);

  /** What turns a text of the guarded schema into a value of that type. */
  protected abstract String cast(String text, ColumnType type);

  /** The name of something in the guarded schema. */
  protected abstract String guarded(String name);

  /** The user's name where the guarded schema knows no better one. */
  protected abstract String userName();

  /** Something about the session, as a text that is never null. */
  protected String session(SessionFact fact) {
    throw new IllegalArgumentException("nothing is known of a session's " + fact.text());
  }

  /** Texts in a given order. */
  protected String ordered(Comparison how, String left, String right) {
    return left + " " + how.sign() + " " + right;
  }

  /** Whether a value is in what a query gives. */
  protected String isIn(String value, String query) {
    return value + " IN (" + query + ")";
  }

  /** Whether a text is like a pattern. */
  protected String like(String text, String pattern) {
    String escaped = pattern.replace("|", "||");
    return text + " LIKE " + literal(escaped) + " ESCAPE '|'";
  }

  /** The length of a text in characters. */
  protected String length(String text) {
    return "CHAR_LENGTH(" + text + ")";
  }

  /** A part of a text. */
  protected String substring(String text, int from, int length) {
    return "SUBSTRING(" + text + " FROM " + from + " FOR " + length + ")";
  }

  /** A query in brackets, as a value. */
  protected String one(String query) {
    return query;
  }

  /** Two texts in one. */
  protected String joined(String left, String right) {
    return left + " || " + right;
  }

  /** A field of a date. */
  protected String extract(Extract extract, String date) {
    return "EXTRACT(" + extract.field() + " FROM " + date + ")";
  }

  /** A number as it takes part in arithmetic: so that nothing overflows that a decimal can hold. */
  protected String number(String sql, ColumnType type) {
    return sql;
  }

  /** Whether something is never unknown. */
  private static boolean isTwoValued(Expression expression) {
    return expression instanceof Holds
        || expression instanceof IsNull
        || expression instanceof IsTrue
        || expression instanceof Not not && isTwoValued(not.of());
  }

  /** Whether something is true, and not unknown. */
  protected String isTrue(String predicate) {
    return "(" + predicate + ") IS TRUE";
  }

  /** A predicate. */
  public final String predicate(Expression expression) {
    if (expression instanceof Or or) {
      return all(or.parts(), " OR ");
    } else if (expression instanceof And and) {
      return all(and.parts(), " AND ");
    } else if (expression instanceof Not not) {
      return "NOT (" + predicate(not.of()) + ")";
    } else if (expression instanceof IsTrue is) {
      String inner = predicate(is.value());
      return isTwoValued(is.value()) ? inner : isTrue(inner);
    } else if (expression instanceof IsNull is) {
      return plain(is.value()) + " IS NULL";
    } else if (expression instanceof Compare compare) {
      return compare(compare);
    } else if (expression instanceof In in) {
      return in(in);
    } else if (expression instanceof Like like) {
      return like(text(like.text()), like.pattern());
    } else if (expression instanceof Holds holds) {
      return holds(holds.role());
    }
    return plain(expression);
  }

  private String all(List<Expression> parts, String by) {
    return parts.stream().map(part -> "(" + predicate(part) + ")").collect(Collectors.joining(by));
  }

  private String compare(Compare compare) {
    String left = compared(compare.left());
    String right = compared(compare.right());
    boolean order = compare.how() != Comparison.EQUAL && compare.how() != Comparison.UNEQUAL;
    boolean text = typeOf(compare.left()).isText();
    return order && text
        ? ordered(compare.how(), text(compare.left()), text(compare.right()))
        : left + " " + compare.how().sign() + " " + right;
  }

  private String in(In in) {
    List<String> tests = new ArrayList<>();
    List<String> values = new ArrayList<>();
    String item = compared(in.item());
    for (Expression option : in.options()) {
      if (option instanceof Attribute attribute) {
        tests.add(isIn(item, listed(attribute)));
      } else if (option instanceof Lookup lookup) {
        String value = element("l.value", lookup.as());
        tests.add(
            isIn(item, "SELECT " + value + " FROM " + guarded("lookup_" + lookup.name()) + " l"));
      } else {
        values.add(compared(option));
      }
    }
    if (!values.isEmpty()) {
      tests.add(item + " IN (" + String.join(", ", values) + ")");
    }
    return tests.size() == 1
        ? tests.get(0)
        : tests.stream().map(test -> "(" + test + ")").collect(Collectors.joining(" OR "));
  }

  private String listed(Attribute attribute) {
    return "SELECT "
        + element(cast("a.value", attribute.as()), attribute.as())
        + " FROM "
        + guarded("own_attributes")
        + " a WHERE a.attribute = "
        + literal(attribute.name());
  }

  private String element(String value, ColumnType type) {
    return type.isText() ? exact(value, type) : value;
  }

  private String compared(Expression expression) {
    ColumnType type = typeOf(expression);
    return type.isText() ? exact(text(expression), ColumnType.TEXT) : plain(expression);
  }

  /** The type of a part. */
  protected static ColumnType typeOf(Expression expression) {
    return Typing.type(expression);
  }

  /** A text as a value, without what compares it exactly. */
  protected String text(Expression expression) {
    return plain(expression);
  }

  /** The value of a column. */
  protected String column(Column column) {
    return qualifier + quoted(column.name());
  }

  /** The value of an expression that is no logical one. */
  protected final String plain(Expression expression) {
    if (expression instanceof Literal literal) {
      return literal(literal);
    } else if (expression instanceof Column column) {
      return column(column);
    } else if (expression instanceof Attribute attribute) {
      return one(
          "(SELECT CASE WHEN COUNT(*) = 1 THEN "
              + cast("MAX(a.value)", attribute.as())
              + " END FROM "
              + guarded("own_attributes")
              + " a WHERE a.attribute = "
              + literal(attribute.name())
              + ")");
    } else if (expression instanceof Operate operate) {
      return operate(operate);
    } else if (expression instanceof Length length) {
      return length(text(length.text()));
    } else if (expression instanceof Substring part) {
      return substring(text(part.text()), part.from(), part.length());
    } else if (expression instanceof Coalesce coalesce) {
      return coalesce.values().stream()
          .map(this::text)
          .collect(Collectors.joining(", ", "COALESCE(", ")"));
    } else if (expression instanceof Extract extract) {
      return extract(extract, plain(extract.date()));
    } else if (expression instanceof Expression.Session asked) {
      return session(asked.fact());
    } else if (expression instanceof Expression.UserName) {
      return "COALESCE((SELECT MAX(a.value) FROM "
          + guarded("own_attributes")
          + " a WHERE a.attribute = 'name'), "
          + userName()
          + ")";
    }
    return predicate(expression);
  }

  private String operate(Operate operate) {
    if (operate.how() == Operation.JOINED) {
      return "(" + joined(text(operate.left()), text(operate.right())) + ")";
    }
    return "("
        + number(plain(operate.left()), typeOf(operate.left()))
        + " "
        + operate.how().sign()
        + " "
        + number(plain(operate.right()), typeOf(operate.right()))
        + ")";
  }

  private String literal(Literal literal) {
    if (literal.value() == null) {
      return "CAST(NULL AS "
          + (literal.type() == ColumnType.BOOLEAN ? booleanType() : "CHAR(1)")
          + ")";
    }
    String text = Values.text(literal.value());
    return switch (literal.type()) {
      case TEXT, PADDED -> literal(text);
      case DATE, TIMESTAMP -> dated(text, literal.type());
      case BOOLEAN -> (Boolean) literal.value() ? "TRUE" : "FALSE";
      default -> text;
    };
  }

  /** A date or timestamp. */
  protected String dated(String text, ColumnType type) {
    return type + " '" + text + "'";
  }

  /** The type of truth values. */
  protected String booleanType() {
    return "BOOLEAN";
  }
}
