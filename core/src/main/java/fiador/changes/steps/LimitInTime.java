package fiador.changes.steps;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Sets until when a user can log in.
 *
 * @param before until when so far, null for ever
 * @param until until when, null for ever
 */
public record LimitInTime(String user, @Nullable Instant before, @Nullable Instant until)
    implements Step {
  @Override
  public Step inverse() {
    return new LimitInTime(user, until, before);
  }

  @Override
  public About about() {
    return About.account(Turn.GIVES, user);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.limitInTime(this);
  }
}
