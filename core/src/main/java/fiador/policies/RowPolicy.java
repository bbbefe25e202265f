package fiador.policies;

import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Or;
import java.util.ArrayList;
import java.util.List;

/**
 * A row policy on one table.
 *
 * @param name what the charter calls it
 * @param any whether one such policy is enough; else all must pass
 * @param applies to whom, without columns
 * @param exempts whom it lets see all rows, without columns
 * @param rows which rows those see
 * @param bindsWriting whether they may add only such rows, and change rows only to such ones
 */
public record RowPolicy(
    String name,
    boolean any,
    Expression applies,
    Expression exempts,
    Expression rows,
    boolean bindsWriting) {
  /** One that is about what is seen alone. */
  public RowPolicy(
      String name, boolean any, Expression applies, Expression exempts, Expression rows) {
    this(name, any, applies, exempts, rows, false);
  }

  /** What it comes to on its own, for everybody. */
  public Expression condition() {
    Expression meant = new IsTrue(applies);
    Expression own = rows;
    if (!applies.equals(Expression.TRUE)) {
      own = any ? new And(List.of(meant, rows)) : new Or(List.of(new Not(meant), rows));
    }
    return exempts.equals(Expression.FALSE) ? own : new Or(List.of(new IsTrue(exempts), own));
  }

  /**
   * Which rows a table shows under several policies: those that one of the {@code any} policies
   * shows, if there are any, and that pass all the others.
   */
  public static Expression together(List<RowPolicy> policies) {
    List<Expression> parts = new ArrayList<>();
    List<Expression> enough =
        policies.stream().filter(RowPolicy::any).map(RowPolicy::condition).toList();
    if (!enough.isEmpty()) {
      parts.add(enough.size() == 1 ? enough.get(0) : new Or(enough));
    }
    policies.stream().filter(one -> !one.any()).map(RowPolicy::condition).forEach(parts::add);
    return parts.isEmpty()
        ? Expression.TRUE
        : parts.size() == 1 ? parts.get(0) : new And(List.copyOf(parts));
  }
}
