package fiador.changes.steps;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Makes a lookup table readable for policies, or otherwise than before; null for not at all. */
public record DefineLookup(
    @Nullable String database, @Nullable LookupTable before, @Nullable LookupTable after)
    implements SightStep {
  @Override
  public Step inverse() {
    return new DefineLookup(database, after, before);
  }

  /** The table it is about, as it will be or was. */
  public LookupTable either() {
    return Objects.requireNonNull(after == null ? before : after, "a lookup that is in neither");
  }

  @Override
  public About about() {
    return About.thing(after == null ? Turn.DROPS : Turn.MAKES, either().table())
        .inDatabase(database);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.sight(this);
  }

  @Override
  public <T> T matchSight(SightCases<T> cases) {
    return cases.defineLookup(this);
  }
}
