package fiador.changes.steps;

import org.jspecify.annotations.Nullable;

/**
 * Gives something another owner.
 *
 * @param before who owned it
 */
public record ChangeOwner(On on, String owner, @Nullable String before) implements Step {
  @Override
  public Step inverse() {
    // where nobody is known to have owned it there is nobody to give it back to
    return before == null ? this : new ChangeOwner(on, before, owner);
  }

  @Override
  public About about() {
    return About.thing(Turn.MAKES, on, owner);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.changeOwner(this);
  }
}
