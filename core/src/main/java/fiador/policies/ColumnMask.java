package fiador.policies;

import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Not;
import java.util.List;

/**
 * A mask on one column.
 *
 * @param policy what the charter calls it
 * @param column the column's name
 * @param applies to whom, without columns
 * @param clearWhere in which rows they see the value all the same; FALSE for none
 * @param mask what they see
 */
public record ColumnMask(
    String policy, String column, Expression applies, Expression clearWhere, Mask mask) {
  /** One that is on the value in every row. */
  public ColumnMask(String policy, String column, Expression applies, Mask mask) {
    this(policy, column, applies, Expression.FALSE, mask);
  }

  /** Whether it is on the value of a row, for whoever asks; where that is unknown, it is. */
  public Expression acts() {
    if (clearWhere.equals(Expression.FALSE)) {
      return applies;
    }
    Expression hidden = new Not(new IsTrue(clearWhere));
    return applies.equals(Expression.TRUE) ? hidden : new And(List.of(new IsTrue(applies), hidden));
  }
}
