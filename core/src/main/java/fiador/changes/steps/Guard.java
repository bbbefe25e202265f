package fiador.changes.steps;

import org.jspecify.annotations.Nullable;

/**
 * Makes the guarded schema in which attributes of users and the policies themselves are kept, or
 * drops it with all that is in it.
 *
 * @param database in which database, null where the server has no such level
 */
public record Guard(@Nullable String database, boolean make) implements SightStep {
  @Override
  public Step inverse() {
    return new Guard(database, !make);
  }

  @Override
  public About about() {
    return About.database(make ? Turn.MAKES : Turn.DROPS, database);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.sight(this);
  }

  @Override
  public <T> T matchSight(SightCases<T> cases) {
    return cases.guard(this);
  }
}
