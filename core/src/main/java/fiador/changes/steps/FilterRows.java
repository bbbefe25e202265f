package fiador.changes.steps;

import fiador.policies.SafeColumn;
import java.util.List;

/**
 * Filters the rows of a table on a server that does so itself.
 *
 * @param columns the table's columns
 * @param before the row policies so far, as {@link fiador.policies.SightText} writes them; empty
 *     for none
 * @param after those from now on
 */
public record FilterRows(On table, List<SafeColumn> columns, String before, String after)
    implements SightStep {
  @Override
  public Step inverse() {
    return new FilterRows(table, columns, after, before);
  }

  /** Whether it only puts back what somebody changed by hand. */
  public boolean putsBack() {
    return before.equals(after);
  }

  @Override
  public About about() {
    return About.thing(after.isEmpty() ? Turn.DROPS : Turn.MAKES, table);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.sight(this);
  }

  @Override
  public <T> T matchSight(SightCases<T> cases) {
    return cases.filterRows(this);
  }
}
