package fiador.policies;

import fiador.predicates.Evaluation;
import fiador.predicates.Expression;
import fiador.predicates.Subject;
import java.util.List;

/** What one user gets of a table's rows, one after the other. */
public final class Simulation {
  private final Expression condition;
  private final Evaluation evaluation;
  private final List<List<ActingMask>> masks;
  private final byte[] key;
  private long rows;
  private long shown;

  /**
   * A simulation.
   *
   * @param sight what decides; {@link TableSight#OPEN} for one who is exempt
   * @param user the user, with lookups
   * @param columns the table's columns
   * @param key the key of digests, or null
   */
  public Simulation(TableSight sight, Subject user, List<SafeColumn> columns, byte[] key) {
    TableSight.Seen seen = sight.by(user);
    this.condition = seen.condition();
    this.evaluation = new Evaluation(user);
    this.masks = columns.stream().map(c -> seen.masks().getOrDefault(c.name(), List.of())).toList();
    this.key = key;
  }

  /** The row as the user gets it, null when it is hidden. */
  public Object[] row(Object[] row) {
    rows++;
    if (!evaluation.shows(condition, row)) {
      return null;
    }
    shown++;
    Object[] masked = row.clone();
    for (int i = 0; i < masked.length; i++) {
      for (ActingMask acting : masks.get(i)) {
        if (acting.everywhere() || !evaluation.shows(acting.clear(), row)) {
          masked[i] = acting.mask().mask().of(masked[i], key);
          break;
        }
      }
    }
    return masked;
  }

  /** How many rows there were. */
  public long rows() {
    return rows;
  }

  /** How many of them the user gets. */
  public long shown() {
    return shown;
  }
}
