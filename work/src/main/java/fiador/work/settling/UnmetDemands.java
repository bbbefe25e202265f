package fiador.work.settling;

import fiador.changes.wanted.Problem;
import fiador.refusal.Refusal;
import java.util.List;

/** A charter demands what its server cannot be made to do; nothing was changed. */
public final class UnmetDemands extends Refusal {
  private static final long serialVersionUID = 1L;

  private final transient List<Problem> problems;

  UnmetDemands(List<Problem> problems) {
    super(
        (problems.size() == 1
                ? "1 demand cannot be met"
                : problems.size() + " demands cannot be met")
            + "; nothing was changed");
    this.problems = problems;
  }

  /** Each of them, with its place in the charter. */
  public List<Problem> problems() {
    return problems;
  }
}
