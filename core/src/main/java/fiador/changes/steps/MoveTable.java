package fiador.changes.steps;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Gives a table another name, so that a view can have its name, or its own name back. Grants on it,
 * and whatever hangs on it, go along.
 *
 * @param from the table by the name it has
 * @param to the same by the name it gets
 * @param aside whether it makes room; else it comes back
 * @param beside a view beside the table that shows it by its name, and is made again; null for none
 * @param grants what was given on the table, by its new name, where the server has to be told; else
 *     nothing
 */
public record MoveTable(
    On from, On to, boolean aside, @Nullable SafeView beside, List<Grant> grants)
    implements SightStep {
  @Override
  public Step inverse() {
    return new MoveTable(to, from, !aside, beside, moved(from));
  }

  /** The grants on the table by another of its names. */
  public List<Grant> moved(On name) {
    return grants.stream()
        .map(
            given ->
                new Grant(
                    given.privileges(),
                    name,
                    given.columns(),
                    given.grantee(),
                    given.grantOption()))
        .toList();
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
