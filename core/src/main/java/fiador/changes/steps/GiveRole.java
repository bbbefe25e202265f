package fiador.changes.steps;

import fiador.grants.Membership;
import org.jspecify.annotations.Nullable;

/**
 * Gives a role, or gives it otherwise than before.
 *
 * @param before how the member holds it so far, or null
 * @param spelledOut whether the server takes inherit and set from the statement, and else from the
 *     member, which may have other ideas
 */
public record GiveRole(
    String role, String member, Membership how, @Nullable Membership before, boolean spelledOut)
    implements Step {
  /** Gives a role plainly to somebody who does not hold it. */
  public GiveRole(String role, String member) {
    this(role, member, Membership.PLAIN, null, false);
  }

  @Override
  public Step inverse() {
    return before == null
        ? new TakeRole(role, member, how, null, spelledOut)
        : new GiveRole(role, member, before, how, spelledOut);
  }

  @Override
  public About about() {
    return About.role(Turn.GIVES, role, member, null);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.giveRole(this);
  }
}
