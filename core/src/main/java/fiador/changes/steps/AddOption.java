package fiador.changes.steps;

import java.util.List;

/** Adds the right to grant on to what is held already. */
public record AddOption(long privileges, On on, List<String> columns, String grantee)
    implements Step {
  @Override
  public Step inverse() {
    return new TakeOption(privileges, on, columns, grantee, null);
  }

  @Override
  public About about() {
    return About.grant(Turn.GIVES, on, columns, grantee, null);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.addOption(this);
  }
}
