package fiador.policies;

import fiador.predicates.Expression;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Rewriting;
import java.util.function.UnaryOperator;

/** Policies with other names for roles: the server's own, where they had a charter's. */
public final class RolesRenamed {
  private RolesRenamed() {}

  /** The expression with other names for its roles. */
  public static Expression in(Expression expression, UnaryOperator<String> name) {
    return Rewriting.of(
        expression,
        part -> part instanceof Holds holds ? new Holds(name.apply(holds.role())) : part);
  }

  /** The mask with other names for its roles. */
  public static ColumnMask in(ColumnMask mask, UnaryOperator<String> name) {
    return new ColumnMask(
        mask.policy(),
        mask.column(),
        in(mask.applies(), name),
        in(mask.clearWhere(), name),
        mask.mask());
  }

  /** The policy with other names for its roles. */
  public static RowPolicy in(RowPolicy policy, UnaryOperator<String> name) {
    return new RowPolicy(
        policy.name(),
        policy.any(),
        in(policy.applies(), name),
        in(policy.exempts(), name),
        in(policy.rows(), name),
        policy.bindsWriting());
  }
}
