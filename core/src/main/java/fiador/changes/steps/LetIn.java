package fiador.changes.steps;

/**
 * Takes what only its giver can take, where they have lost the way into the schema: they are let in
 * for that one statement. Only for servers on which others see nothing of what is in between.
 *
 * @param taking takes a grant, or takes it over
 * @param schema where they are let in
 */
public record LetIn(Step taking, On schema, String giver) implements Step {
  @Override
  public Step inverse() {
    return taking.inverse();
  }

  @Override
  public About about() {
    return taking.about();
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.letIn(this);
  }
}
