package fiador.work.settling;

import fiador.changes.steps.Step;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.servers.live.SettleRun;
import java.util.List;

/** Where the secrets of new users come from. */
@FunctionalInterface
public interface SecretSource {
  /**
   * The secrets of all users that some steps create.
   *
   * @throws BadInput when one is missing; then nothing is begun
   */
  SettleRun.Secrets of(Access before, List<Step> steps) throws BadInput;
}
