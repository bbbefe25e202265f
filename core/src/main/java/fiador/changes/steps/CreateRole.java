package fiador.changes.steps;

/** Creates a role. */
public record CreateRole(String role) implements Step {
  @Override
  public Step inverse() {
    return new DropRole(role);
  }

  @Override
  public About about() {
    return About.account(Turn.MAKES);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.createRole(this);
  }
}
