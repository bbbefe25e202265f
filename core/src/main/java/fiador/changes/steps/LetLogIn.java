package fiador.changes.steps;

/**
 * Lets a user log in, or no longer.
 *
 * @param enabled whether it can from now on
 */
public record LetLogIn(String user, boolean enabled) implements Step {
  @Override
  public Step inverse() {
    return new LetLogIn(user, !enabled);
  }

  @Override
  public About about() {
    return About.account(enabled ? Turn.GIVES : Turn.TAKES, user);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.letLogIn(this);
  }
}
