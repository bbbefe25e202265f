package fiador.predicates;

import fiador.estate.ColumnType;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Coalesce;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.IsNull;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Literal;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Operate;
import fiador.predicates.Expression.Operation;
import fiador.predicates.Expression.Or;
import java.math.BigDecimal;
import java.util.List;

/** How many digits the arithmetic of a predicate may need: some servers hold only so many. */
public final class Digits {
  /** As many as a whole number of 64 bits has. */
  private static final int WHOLE = 19;

  /** Taken for a column with decimals: how many it holds is not known. */
  private static final int DECIMALS = 30;

  private Digits() {}

  /**
   * The most digits that a product or sum in a typed predicate may have; 0 where it has none. Of
   * columns with decimals 30 digits are counted. Cost: the predicate.
   */
  public static int ofArithmetic(Expression typed) {
    int most = typed instanceof Operate ? of(typed) : 0;
    for (Expression part : parts(typed)) {
      most = Math.max(most, ofArithmetic(part));
    }
    return most;
  }

  private static int of(Expression number) {
    if (number instanceof Operate operate && operate.how() == Operation.TIMES) {
      return of(operate.left()) + of(operate.right());
    } else if (number instanceof Operate operate) {
      return operate.how() == Operation.JOINED
          ? 0
          : Math.max(of(operate.left()), of(operate.right())) + 1;
    } else if (number instanceof Literal literal && literal.value() instanceof BigDecimal value) {
      return Math.max(value.precision(), value.scale());
    } else if (number instanceof Coalesce coalesce) {
      return coalesce.values().stream().mapToInt(Digits::of).max().orElse(0);
    }
    return Typing.type(number) == ColumnType.DECIMAL ? DECIMALS : WHOLE;
  }

  private static List<Expression> parts(Expression of) {
    if (of instanceof And and) {
      return and.parts();
    } else if (of instanceof Or or) {
      return or.parts();
    } else if (of instanceof Not not) {
      return List.of(not.of());
    } else if (of instanceof IsTrue is) {
      return List.of(is.value());
    } else if (of instanceof IsNull is) {
      return List.of(is.value());
    } else if (of instanceof Compare compare) {
      return List.of(compare.left(), compare.right());
    } else if (of instanceof In in) {
      return List.of(in.item());
    } else if (of instanceof Operate operate) {
      return List.of(operate.left(), operate.right());
    } else if (of instanceof Coalesce coalesce) {
      return coalesce.values();
    }
    return List.of();
  }
}
