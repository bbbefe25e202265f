package fiador.policies;

import fiador.predicates.Expression;

/**
 * A mask on one column.
 *
 * @param policy what the charter calls it
 * @param column the column's name
 * @param applies to whom, without columns
 * @param mask what they see
 */
public record ColumnMask(String policy, String column, Expression applies, Mask mask) {}
