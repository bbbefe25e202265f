package fiador.changes.steps;

import fiador.estate.Power;
import java.util.Set;

/**
 * Gives a user or role a power of the server, or takes it.
 *
 * @param power one of {@link #SETTABLE}
 */
public record SetPower(String principal, Power power, boolean given) implements Step {
  /** The powers that are somebody's own and can be set; being an administrator is no sentence's. */
  public static final Set<Power> SETTABLE =
      Set.of(
          Power.MANAGE_ROLES, Power.CREATE_DATABASES, Power.BYPASS_ROW_POLICIES, Power.REPLICATION);

  @Override
  public Step inverse() {
    return new SetPower(principal, power, !given);
  }

  @Override
  public About about() {
    return About.account(given ? Turn.GIVES : Turn.TAKES, principal);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.setPower(this);
  }
}
