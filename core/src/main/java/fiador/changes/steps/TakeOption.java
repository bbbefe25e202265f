package fiador.changes.steps;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** Takes the right to grant on and leaves the privileges. */
public record TakeOption(
    long privileges, On on, List<String> columns, String grantee, @Nullable String grantor)
    implements Step {
  @Override
  public Step inverse() {
    return new AddOption(privileges, on, columns, grantee);
  }

  @Override
  public About about() {
    return About.grant(Turn.TAKES, on, columns, grantee, grantor);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.takeOption(this);
  }
}
