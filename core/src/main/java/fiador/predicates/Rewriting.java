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
   * The expression with each of its smallest parts replaced.
   *
   * @param leaf gives for a part what stands in its place, or the part itself
   */
  public static Expression of(Expression expression, UnaryOperator<Expression> leaf) {
    if (expression instanceof And and) {
      return new And(all(and.parts(), leaf));
    } else if (expression instanceof Or or) {
      return new Or(all(or.parts(), leaf));
    } else if (expression instanceof Not not) {
      return new Not(of(not.of(), leaf));
    } else if (expression instanceof IsTrue is) {
      return new IsTrue(of(is.value(), leaf));
    } else if (expression instanceof IsNull is) {
      return new IsNull(of(is.value(), leaf));
    } else if (expression instanceof Compare compare) {
      return new Compare(compare.how(), of(compare.left(), leaf), of(compare.right(), leaf));
    } else if (expression instanceof In in) {
      return new In(of(in.item(), leaf), all(in.options(), leaf));
    } else if (expression instanceof Operate operate) {
      return new Operate(operate.how(), of(operate.left(), leaf), of(operate.right(), leaf));
    } else if (expression instanceof Coalesce coalesce) {
      return new Coalesce(all(coalesce.values(), leaf));
    } else if (expression instanceof Like like) {
      return new Like(of(like.text(), leaf), like.pattern());
    } else if (expression instanceof Length length) {
      return new Length(of(length.text(), leaf));
    } else if (expression instanceof Substring part) {
      return new Substring(of(part.text(), leaf), part.from(), part.length());
    } else if (expression instanceof Extract extract) {
      return new Extract(extract.field(), of(extract.date(), leaf));
    }
    return leaf.apply(expression);
  }

  private static List<Expression> all(List<Expression> parts, UnaryOperator<Expression> leaf) {
    return parts.stream().map(part -> of(part, leaf)).toList();
  }
}
