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
 * @param brief whether it is there for a moment only, among steps that take, so that nothing opens
 *     between them; the same steps lift it
 */
public record Deny(
    long privileges, On on, List<String> columns, String who, boolean lifted, boolean brief)
    implements Step {
  /** One that is there to stay. */
  public Deny(long privileges, On on, List<String> columns, String who, boolean lifted) {
    this(privileges, on, columns, who, lifted, false);
  }

  @Override
  public Deny inverse() {
    return new Deny(privileges, on, columns, who, !lifted, brief);
  }

  /** The same, not for a moment only. */
  public Deny toStay() {
    return new Deny(privileges, on, columns, who, lifted);
  }

  /**
   * Denying closes, and so comes before what gives; lifting opens, and comes after what takes; what
   * is brief keeps its place among what takes.
   */
  @Override
  public About about() {
    return About.grant(lifted || brief ? Turn.TAKES : Turn.GIVES, on, columns, who, null);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.deny(this);
  }
}
