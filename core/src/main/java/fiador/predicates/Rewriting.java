package fiador.predicates;

import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Coalesce;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Extract;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.IsNull;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Length;
import fiador.predicates.Expression.Like;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Operate;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.Substring;
import java.util.List;
import java.util.function.UnaryOperator;

/** Replaces parts of expressions. */
public final class Rewriting {
  private Rewriting() {}

  /**
   * The expression with parts replaced, from the whole down to its smallest parts.
   *
   * @param replaced gives for a part what stands in its place, in which nothing more is replaced,
   *     or the part itself
   */
  public static Expression of(Expression expression, UnaryOperator<Expression> replaced) {
    Expression instead = replaced.apply(expression);
    if (!instead.equals(expression)) {
      return instead;
    }
    if (expression instanceof And and) {
      return new And(all(and.parts(), replaced));
    } else if (expression instanceof Or or) {
      return new Or(all(or.parts(), replaced));
    } else if (expression instanceof Not not) {
      return new Not(of(not.of(), replaced));
    } else if (expression instanceof IsTrue is) {
      return new IsTrue(of(is.value(), replaced));
    } else if (expression instanceof IsNull is) {
      return new IsNull(of(is.value(), replaced));
    } else if (expression instanceof Compare compare) {
      return new Compare(
          compare.how(), of(compare.left(), replaced), of(compare.right(), replaced));
    } else if (expression instanceof In in) {
      return new In(of(in.item(), replaced), all(in.options(), replaced));
    } else if (expression instanceof Operate operate) {
      return new Operate(
          operate.how(), of(operate.left(), replaced), of(operate.right(), replaced));
    } else if (expression instanceof Coalesce coalesce) {
      return new Coalesce(all(coalesce.values(), replaced));
    } else if (expression instanceof Like like) {
      return new Like(of(like.text(), replaced), like.pattern());
    } else if (expression instanceof Length length) {
      return new Length(of(length.text(), replaced));
    } else if (expression instanceof Substring part) {
      return new Substring(of(part.text(), replaced), part.from(), part.length());
    } else if (expression instanceof Extract extract) {
      return new Extract(extract.field(), of(extract.date(), replaced));
    }
    return expression;
  }

  private static List<Expression> all(List<Expression> parts, UnaryOperator<Expression> replaced) {
    return parts.stream().map(part -> of(part, replaced)).toList();
  }
}
