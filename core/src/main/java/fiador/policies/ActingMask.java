package fiador.policies;

import fiador.predicates.Expression;
import fiador.predicates.PredicateText;
import java.util.List;
import java.util.stream.Collectors;

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

  /** What stands in place of the value, and where it does not. */
  public String text() {
    String shows = mask.mask().text();
    return everywhere() ? shows : shows + " unless " + PredicateText.of(clear);
  }

  /** What several masks on one column, tried in that order, come to. */
  public static String text(List<ActingMask> tried) {
    return tried.stream().map(ActingMask::text).collect(Collectors.joining(", then "));
  }
}
