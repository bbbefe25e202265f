package fiador.changes.steps;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Makes, changes or drops a view that shows a table safely; null for none. */
public record ShowSafely(@Nullable SafeView before, @Nullable SafeView after) implements SightStep {
  @Override
  public Step inverse() {
    return new ShowSafely(after, before);
  }

  /** The view it is about, as it will be or was. */
  public SafeView either() {
    return Objects.requireNonNull(after == null ? before : after, "a view that is in neither");
  }

  /** Whether it only puts back what somebody changed by hand. */
  public boolean putsBack() {
    return before != null && before.equals(after);
  }

  @Override
  public About about() {
    return About.thing(
        after == null ? Turn.DROPS : Turn.MAKES, after == null ? either().view() : after.table());
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.sight(this);
  }

  @Override
  public <T> T matchSight(SightCases<T> cases) {
    return cases.showSafely(this);
  }
}
