package fiador.changes.steps;

/**
 * Gives something another owner.
 *
 * @param before who owned it
 */
public record ChangeOwner(On on, String owner, String before) implements Step {
  @Override
  public Step inverse() {
    return new ChangeOwner(on, before, owner);
  }

  @Override
  public About about() {
    return About.thing(Turn.MAKES, on, owner);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.changeOwner(this);
  }
}
