package fiador.changes.steps;

/** Creates a user; its secret is asked for when the step is carried out. */
public record CreateUser(String user) implements Step {
  @Override
  public Step inverse() {
    return new DropUser(user);
  }

  @Override
  public About about() {
    return About.account(Turn.MAKES);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.createUser(this);
  }
}
