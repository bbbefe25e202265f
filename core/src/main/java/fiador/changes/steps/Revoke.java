package fiador.changes.steps;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Revokes.
 *
 * @param withOption whether the right to grant on goes too
 * @param grantor who gave it, where only that one can take it; else null
 */
public record Revoke(
    long privileges,
    On on,
    List<String> columns,
    String grantee,
    boolean withOption,
    @Nullable String grantor)
    implements Step {
  @Override
  public Step inverse() {
    return new Grant(privileges, on, columns, grantee, withOption);
  }

  @Override
  public About about() {
    return About.grant(Turn.TAKES, on, columns, grantee, grantor);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.revoke(this);
  }
}
