package fiador.changes.steps;

/** Drops a role. */
public record DropRole(String role) implements Step {
  @Override
  public Step inverse() {
    return new CreateRole(role);
  }

  @Override
  public About about() {
    return About.account(Turn.DROPS, role);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.dropRole(this);
  }
}
