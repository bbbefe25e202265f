package fiador.changes.steps;

/**
 * Gives anew, as whoever carries it out, what somebody else had given, and then takes that one's
 * away. Nobody holds anything else than before, so there is nothing to take back.
 *
 * @param given a role or grant
 * @param taken the same from its old grantor
 */
public record TakeOver(Step given, Step taken) implements Step {
  @Override
  public Step inverse() {
    return this;
  }

  @Override
  public About about() {
    return taken.about().in(Turn.TAKES_OVER);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.takeOver(this);
  }
}
