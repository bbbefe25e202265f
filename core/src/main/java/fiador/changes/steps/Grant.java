package fiador.changes.steps;

import java.util.List;

/**
 * Grants.
 *
 * @param privileges a set of privileges
 * @param columns the columns, empty for the whole
 */
public record Grant(
    long privileges, On on, List<String> columns, String grantee, boolean grantOption)
    implements Step {
  @Override
  public Step inverse() {
    return new Revoke(privileges, on, columns, grantee, grantOption, null);
  }

  @Override
  public About about() {
    return About.grant(Turn.GIVES, on, columns, grantee, null);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.grant(this);
  }
}
