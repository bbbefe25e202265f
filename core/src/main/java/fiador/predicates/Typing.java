package fiador.predicates;

import fiador.estate.ColumnType;
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
import fiador.predicates.Expression.Operation;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.Session;
import fiador.predicates.Expression.Substring;
import fiador.predicates.Expression.UserName;
import fiador.predicates.PredicateReader.Read;
import java.util.ArrayList;
import java.util.List;

/** Finds the columns of a predicate in a table, and checks that its types fit. */
public final class Typing {
  private final Names names;
  private final Read read;

  /** Where names lead. */
  public interface Names {
    /**
     * The column of that name, with its ordinal and type.
     *
     * @param name as it stands in the predicate, with its quotes if it has some
     * @throws IllegalArgumentException when there is none, saying so
     */
    Column column(String name);

    /** What a lookup table's values are; null when that is not known. */
    ColumnType lookup(String name);
  }

  private Typing(Names names, Read read) {
    this.names = names;
    this.read = read;
  }

  /**
   * The predicate with columns found and types settled.
   *
   * @throws PredicateException at the first thing that does not fit
   */
  public static Expression typed(Read read, Names names) throws PredicateException {
    return new Typing(names, read).truth(read.expression());
  }

  private PredicateException wrong(Expression where, String why) {
    return new PredicateException(why, read.at(where));
  }

  private Expression truth(Expression expression) throws PredicateException {
    Expression found = typed(expression, ColumnType.BOOLEAN);
    ColumnType type = type(found);
    if (type != ColumnType.BOOLEAN) {
      throw wrong(
          expression, "this is a " + Values.noun(type) + ", expected something true or false");
    }
    return found;
  }

  /** The type of a typed expression. */
  public static ColumnType type(Expression typed) {
    if (typed instanceof Literal literal) {
      return literal.type();
    } else if (typed instanceof Column column) {
      return column.type();
    } else if (typed instanceof Attribute attribute) {
      return attribute.as();
    } else if (typed instanceof Lookup lookup) {
      return lookup.as();
    } else if (typed instanceof UserName
        || typed instanceof Session
        || typed instanceof Substring) {
      return ColumnType.TEXT;
    } else if (typed instanceof Operate operate) {
      boolean text = operate.how() == Operation.JOINED;
      return text ? ColumnType.TEXT : ColumnType.DECIMAL;
    } else if (typed instanceof Length || typed instanceof Extract) {
      return ColumnType.INTEGER;
    } else if (typed instanceof Coalesce coalesce) {
      return type(coalesce.values().get(0));
    }
    return ColumnType.BOOLEAN;
  }

  /** Whether a typed predicate asks which of two texts comes first. */
  public static boolean ordersTexts(Expression typed) {
    if (typed instanceof And and) {
      return and.parts().stream().anyMatch(Typing::ordersTexts);
    } else if (typed instanceof Or or) {
      return or.parts().stream().anyMatch(Typing::ordersTexts);
    } else if (typed instanceof Not not) {
      return ordersTexts(not.of());
    } else if (typed instanceof IsTrue is) {
      return ordersTexts(is.value());
    }
    boolean order =
        typed instanceof Compare compare
            && compare.how() != Expression.Comparison.EQUAL
            && compare.how() != Expression.Comparison.UNEQUAL;
    return order && type(((Compare) typed).left()).isText();
  }

  /**
   * The expression with its types settled.
   *
   * @param wanted what an attribute of the user is taken for
   */
  private Expression typed(Expression expression, ColumnType wanted) throws PredicateException {
    if (expression instanceof Column column) {
      try {
        return names.column(column.name());
      } catch (IllegalArgumentException missing) {
        throw wrong(column, missing.getMessage());
      }
    } else if (expression instanceof Attribute attribute) {
      return new Attribute(
          attribute.name(), wanted == ColumnType.PADDED ? ColumnType.TEXT : wanted);
    } else if (expression instanceof Lookup lookup) {
      ColumnType type = names.lookup(lookup.name());
      if (type != null && !type.compares(wanted)) {
        throw wrong(
            lookup,
            "lookup " + lookup.name() + " gives " + plural(type) + ", not " + plural(wanted));
      }
      return new Lookup(lookup.name(), type == null ? wanted : type);
    } else if (expression instanceof Compare compare) {
      List<Expression> sides = same(List.of(compare.left(), compare.right()));
      return new Compare(compare.how(), sides.get(0), sides.get(1));
    } else if (expression instanceof In in) {
      List<Expression> all = new ArrayList<>(List.of(in.item()));
      all.addAll(in.options());
      List<Expression> same = same(all);
      return new In(same.get(0), same.subList(1, same.size()));
    } else if (expression instanceof Coalesce coalesce) {
      return new Coalesce(same(coalesce.values()));
    } else if (expression instanceof Like like) {
      return new Like(text(like.text()), like.pattern());
    } else if (expression instanceof Length length) {
      return new Length(text(length.text()));
    } else if (expression instanceof Substring part) {
      return new Substring(text(part.text()), part.from(), part.length());
    } else if (expression instanceof Extract extract) {
      return new Extract(extract.field(), date(extract.date()));
    } else if (expression instanceof Operate operate) {
      return operate(operate);
    }
    return logical(expression);
  }

  private Expression logical(Expression expression) throws PredicateException {
    if (expression instanceof And and) {
      return new And(truths(and.parts()));
    } else if (expression instanceof Or or) {
      return new Or(truths(or.parts()));
    } else if (expression instanceof Not not) {
      return new Not(truth(not.of()));
    } else if (expression instanceof IsTrue is) {
      return new IsTrue(truth(is.value()));
    } else if (expression instanceof IsNull is) {
      return new IsNull(typed(is.value(), ColumnType.TEXT));
    } else if (expression instanceof Holds || expression instanceof UserName) {
      return expression;
    }
    return expression;
  }

  private List<Expression> truths(List<Expression> parts) throws PredicateException {
    List<Expression> found = new ArrayList<>();
    for (Expression part : parts) {
      found.add(truth(part));
    }
    return List.copyOf(found);
  }

  /** Several that are compared with each other. Attributes take the type of the others. */
  private List<Expression> same(List<Expression> all) throws PredicateException {
    ColumnType common = null;
    Expression first = null;
    for (Expression one : all) {
      if (!(one instanceof Attribute) && !(one instanceof Lookup)) {
        ColumnType type = type(typed(one, ColumnType.TEXT));
        if (type == ColumnType.FLOAT || type == ColumnType.OTHER) {
          throw wrong(
              one,
              "servers compare such values each in their own way, so predicates only ask whether they are null");
        }
        if (common != null && !common.compares(type)) {
          throw wrong(
              one, "a " + Values.noun(type) + " cannot be compared with a " + Values.noun(common));
        }
        first = first == null ? one : first;
        common = common == null ? type : common;
      }
    }
    ColumnType as = common == null ? ColumnType.TEXT : common;
    List<Expression> found = new ArrayList<>();
    for (Expression one : all) {
      found.add(typed(one, as));
    }
    return List.copyOf(found);
  }

  private Expression text(Expression expression) throws PredicateException {
    Expression found = typed(expression, ColumnType.TEXT);
    if (!type(found).isText()) {
      throw wrong(expression, "this is a " + Values.noun(type(found)) + ", expected a text");
    }
    return found;
  }

  private Expression date(Expression expression) throws PredicateException {
    Expression found = typed(expression, ColumnType.DATE);
    ColumnType type = type(found);
    if (type != ColumnType.DATE && type != ColumnType.TIMESTAMP) {
      throw wrong(expression, "this is a " + Values.noun(type) + ", expected a date or timestamp");
    }
    return found;
  }

  private Expression operate(Operate operate) throws PredicateException {
    if (operate.how() == Operation.JOINED) {
      return new Operate(operate.how(), text(operate.left()), text(operate.right()));
    }
    return new Operate(operate.how(), number(operate.left()), number(operate.right()));
  }

  private Expression number(Expression expression) throws PredicateException {
    Expression found = typed(expression, ColumnType.DECIMAL);
    if (!type(found).isNumber()) {
      throw wrong(expression, "this is a " + Values.noun(type(found)) + ", expected a number");
    }
    return found;
  }

  private static String plural(ColumnType type) {
    return type.isText() ? "texts" : type.isNumber() ? "numbers" : type.text() + "s";
  }
}
