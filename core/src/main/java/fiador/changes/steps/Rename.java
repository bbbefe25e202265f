package fiador.changes.steps;

/**
 * Gives a user or role another name; what they hold, own and were given stays theirs.
 *
 * @param user whether it is one who logs in
 */
public record Rename(String from, String to, boolean user) implements Step {
  @Override
  public Step inverse() {
    return new Rename(to, from, user);
  }

  @Override
  public About about() {
    return About.account(Turn.MAKES, from);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.rename(this);
  }
}
