package fiador.changes.steps;

import java.util.List;

/**
 * Denies something, or lifts a denial.
 *
 * @param privileges what
 * @param on on what
 * @param columns on which columns of it; none for the whole
 * @param who to whom
 * @param lifted whether it is lifted
 */
public record Deny(long privileges, On on, List<String> columns, String who, boolean lifted)
    implements Step {
  @Override
  public Step inverse() {
    return new Deny(privileges, on, columns, who, !lifted);
  }

  /** Denying closes, and so comes before what gives; lifting opens, and comes after what takes. */
  @Override
  public About about() {
    return About.grant(lifted ? Turn.TAKES : Turn.GIVES, on, columns, who, null);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.deny(this);
  }
}
