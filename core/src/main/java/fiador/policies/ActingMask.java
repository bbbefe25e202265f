package fiador.policies;

import fiador.predicates.Expression;

/**
 * A mask on one column as it meets one user.
 *
 * @param mask which one
 * @param clear the rows in which it lets the value through, with what is known of the user put in;
 *     FALSE for none
 */
public record ActingMask(ColumnMask mask, Expression clear) {
  /** Whether it is on the value in every row. */
  public boolean everywhere() {
    return clear.equals(Expression.FALSE);
  }
}
