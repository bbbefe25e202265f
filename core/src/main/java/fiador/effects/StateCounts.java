package fiador.effects;

import java.util.List;

/** How many holdings there are in each state. */
public final class StateCounts {
  private final long[] counts = new long[State.values().length];

  /** Those of a list. */
  public static StateCounts of(List<Holding> rows) {
    StateCounts counts = new StateCounts();
    rows.forEach(row -> counts.add(row.state()));
    return counts;
  }

  void add(State state) {
    add(state, 1);
  }

  void add(State state, long rows) {
    counts[state.ordinal()] += rows;
  }

  /** How many in that state. */
  public long in(State state) {
    return counts[state.ordinal()];
  }

  /** How many in all. */
  public long total() {
    long total = 0;
    for (long count : counts) {
      total += count;
    }
    return total;
  }
}
