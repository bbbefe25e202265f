package fiador.changes.steps;

import fiador.grants.Membership;
import org.jspecify.annotations.Nullable;

/**
 * Takes a role.
 *
 * @param before how the member held it
 * @param grantor who gave it, where only that one can take it; else null
 * @param spelledOut as for {@link GiveRole}
 */
public record TakeRole(
    String role, String member, Membership before, @Nullable String grantor, boolean spelledOut)
    implements Step {
  @Override
  public Step inverse() {
    return new GiveRole(role, member, before, null, spelledOut);
  }

  @Override
  public About about() {
    return About.role(Turn.TAKES, role, member, grantor);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.takeRole(this);
  }
}
