package fiador.changes.steps;

/** Drops a user. Taking it back needs a new secret: the old one is gone. */
public record DropUser(String user) implements Step {
  @Override
  public Step inverse() {
    return new CreateUser(user);
  }

  @Override
  public About about() {
    return About.account(Turn.DROPS, user);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.dropUser(this);
  }
}
