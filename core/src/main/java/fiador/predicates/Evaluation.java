package fiador.predicates;

import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Coalesce;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
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
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.Session;
import fiador.predicates.Expression.Substring;
import fiador.predicates.Expression.UserName;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;

/**
 * Works predicates out for one user, in SQL's three-valued logic (ISO/IEC 9075-2, 8.1 to 8.21).
 * Recursion is as deep as the expression, which the reader limits.
 */
public final class Evaluation {
  private final Subject user;

  /** For that user. */
  public Evaluation(Subject user) {
    this.user = user;
  }

  /**
   * Whether a row is shown: only when the predicate is true, not when it is unknown.
   *
   * @param row the values by the ordinals of the columns
   */
  public boolean shows(Expression predicate, Object[] row) {
    return Boolean.TRUE.equals(value(predicate, row));
  }

  /** The value of an expression; null for null and unknown. */
  public Object value(Expression expression, Object[] row) {
    if (expression instanceof Literal literal) {
      return literal.value();
    } else if (expression instanceof Column column) {
      return row[column.ordinal()];
    } else if (expression instanceof UserName) {
      return user.name();
    } else if (expression instanceof Session session) {
      return session(session.fact());
    } else if (expression instanceof Holds holds) {
      return user.holds(holds.role());
    } else if (expression instanceof Attribute attribute) {
      List<Object> all = list(attribute);
      return all.size() == 1 ? all.get(0) : null;
    } else if (expression instanceof Compare compare) {
      return compared(compare, row);
    } else if (expression instanceof In in) {
      return isIn(in, row);
    } else if (expression instanceof Like like) {
      Object text = value(like.text(), row);
      return text == null ? null : LikePattern.matches((String) text, like.pattern());
    } else if (expression instanceof IsNull is) {
      return value(is.value(), row) == null;
    } else if (expression instanceof IsTrue is) {
      return Boolean.TRUE.equals(value(is.value(), row));
    } else if (expression instanceof Not not) {
      Object of = value(not.of(), row);
      return of == null ? null : !(Boolean) of;
    } else if (expression instanceof And and) {
      return every(and.parts(), row, false);
    } else if (expression instanceof Or or) {
      return every(or.parts(), row, true);
    }
    return computed(expression, row);
  }

  /** Stops at the value that decides; else unknown if one was, else the contrary. */
  private Boolean every(List<Expression> parts, Object[] row, boolean decides) {
    boolean unknown = false;
    for (Expression part : parts) {
      Object is = value(part, row);
      if (is == null) {
        unknown = true;
      } else if ((Boolean) is == decides) {
        return decides;
      }
    }
    return unknown ? null : (Boolean) !decides;
  }

  private Boolean compared(Compare compare, Object[] row) {
    Object left = value(compare.left(), row);
    Object right = value(compare.right(), row);
    return left == null || right == null
        ? null
        : (Boolean) compare.how().passes(Values.compare(left, right));
  }

  private Boolean isIn(In in, Object[] row) {
    List<Object> options = new ArrayList<>();
    for (Expression option : in.options()) {
      if (option instanceof Attribute || option instanceof Lookup) {
        options.addAll(list(option));
      } else {
        options.add(value(option, row));
      }
    }
    if (options.isEmpty()) {
      return false;
    }
    Object item = value(in.item(), row);
    if (item == null) {
      return null;
    }
    boolean unknown = false;
    for (Object option : options) {
      if (option == null) {
        unknown = true;
      } else if (Values.compare(item, option) == 0) {
        return true;
      }
    }
    return unknown ? null : false;
  }

  /** All values of an attribute, or all that a lookup table says. */
  List<Object> list(Expression many) {
    if (many instanceof Lookup lookup) {
      List<Object> found = user.lookup(lookup.name());
      if (found == null) {
        throw new IllegalStateException("the contents of lookup " + lookup.name() + " are unknown");
      }
      return found;
    }
    Attribute attribute = (Attribute) many;
    List<Object> found = new ArrayList<>();
    for (String text : user.attribute(attribute.name())) {
      found.add(Values.of(text, attribute.as()));
    }
    return found;
  }

  private Object computed(Expression expression, Object[] row) {
    if (expression instanceof Operate operate) {
      Object left = value(operate.left(), row);
      Object right = value(operate.right(), row);
      return left == null || right == null ? null : operated(operate, left, right);
    } else if (expression instanceof Length length) {
      String text = (String) value(length.text(), row);
      return text == null ? null : BigDecimal.valueOf(text.codePointCount(0, text.length()));
    } else if (expression instanceof Substring part) {
      String text = (String) value(part.text(), row);
      return text == null ? null : part(text, part.from() - 1, part.length());
    } else if (expression instanceof Coalesce coalesce) {
      for (Expression one : coalesce.values()) {
        Object value = value(one, row);
        if (value != null) {
          return value;
        }
      }
      return null;
    } else if (expression instanceof Extract extract) {
      return extracted(extract, value(extract.date(), row));
    }
    throw new IllegalArgumentException("cannot work out " + expression);
  }

  private String session(SessionFact fact) {
    String known = user.session(fact);
    if (known == null) {
      throw new IllegalStateException("the session's " + fact.text() + " is unknown");
    }
    return known;
  }

  private static Object operated(Operate operate, Object left, Object right) {
    return switch (operate.how()) {
      case PLUS -> ((BigDecimal) left).add((BigDecimal) right);
      case MINUS -> ((BigDecimal) left).subtract((BigDecimal) right);
      case TIMES -> ((BigDecimal) left).multiply((BigDecimal) right);
      case JOINED -> (String) left + right;
    };
  }

  private static String part(String text, int from, int length) {
    int[] points = text.codePoints().skip(from).limit(length).toArray();
    return new String(points, 0, points.length);
  }

  /** A field of a date; an infinite date has none. */
  private static BigDecimal extracted(Extract extract, Object date) {
    LocalDate day = date instanceof LocalDateTime time ? time.toLocalDate() : (LocalDate) date;
    if (day == null || day.equals(LocalDate.MAX) || day.equals(LocalDate.MIN)) {
      return null;
    }
    int value =
        switch (extract.field()) {
          case YEAR -> day.getYear() > 0 ? day.getYear() : day.getYear() - 1;
          case MONTH -> day.getMonthValue();
          case DAY -> day.getDayOfMonth();
        };
    return BigDecimal.valueOf(value);
  }
}
