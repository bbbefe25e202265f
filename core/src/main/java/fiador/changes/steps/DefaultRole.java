package fiador.changes.steps;

import org.jspecify.annotations.Nullable;

/**
 * Makes a role the one that is on at login, where only one can be.
 *
 * @param role which, or null for none
 * @param before which so far, or null
 */
public record DefaultRole(String member, @Nullable String role, @Nullable String before)
    implements Step {
  @Override
  public Step inverse() {
    return new DefaultRole(member, before, role);
  }

  @Override
  public About about() {
    return About.role(Turn.GIVES, role, member, null);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.defaultRole(this);
  }
}
