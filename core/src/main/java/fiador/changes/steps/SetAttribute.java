package fiador.changes.steps;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Sets what is known of a user for policies.
 *
 * @param user the user as policies find it on the server
 * @param before the values so far
 * @param after the values from now on
 */
public record SetAttribute(
    @Nullable String database,
    String user,
    String attribute,
    List<String> before,
    List<String> after)
    implements SightStep {
  @Override
  public Step inverse() {
    return new SetAttribute(database, user, attribute, after, before);
  }

  @Override
  public About about() {
    return About.database(Turn.MAKES, database);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.sight(this);
  }

  @Override
  public <T> T matchSight(SightCases<T> cases) {
    return cases.setAttribute(this);
  }
}
