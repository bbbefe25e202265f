package fiador.changes.steps;

import org.jspecify.annotations.Nullable;

/**
 * Gives a table another name, so that a view can have its name, or its own name back. Grants on it,
 * and whatever hangs on it, go along.
 *
 * @param from the table by the name it has
 * @param to the same by the name it gets
 * @param aside whether it makes room; else it comes back
 * @param beside a view beside the table that shows it by its name, and is made again; null for none
 */
public record MoveTable(On from, On to, boolean aside, @Nullable SafeView beside)
    implements SightStep {
  @Override
  public Step inverse() {
    return new MoveTable(to, from, !aside, beside);
  }

  @Override
  public About about() {
    return About.thing(aside ? Turn.MAKES : Turn.DROPS, from);
  }

  /** The view beside it, once the table has its new name; null for none. */
  public @Nullable SafeView besideAfter() {
    return beside == null ? null : beside.of(to);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.sight(this);
  }

  @Override
  public <T> T matchSight(SightCases<T> cases) {
    return cases.moveTable(this);
  }
}
