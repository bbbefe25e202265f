package fiador.changes.steps;

import fiador.estate.AccountLimit;
import java.util.Map;

/**
 * Sets what a server keeps a user to.
 *
 * @param before its limits so far
 * @param after all its limits from then on
 */
public record LimitAccount(
    String user, Map<AccountLimit, Integer> before, Map<AccountLimit, Integer> after)
    implements Step {
  @Override
  public Step inverse() {
    return new LimitAccount(user, after, before);
  }

  @Override
  public About about() {
    return About.account(Turn.GIVES, user);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.limitAccount(this);
  }
}
