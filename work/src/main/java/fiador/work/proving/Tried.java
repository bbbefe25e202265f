package fiador.work.proving;

import fiador.proofs.Proof;
import fiador.proofs.Prover;
import fiador.servers.live.Trial;
import fiador.servers.live.Trial.Answer;
import org.jspecify.annotations.Nullable;

/**
 * What became of a proof.
 *
 * @param proof what was to be proved
 * @param paper what the survey says
 * @param live what the server did when it was asked as the user; null where it was not
 */
public record Tried(Proof proof, Prover.Result paper, Trial.@Nullable Outcome live) {

  /** Whether the server did otherwise than the survey says it does. */
  public boolean disagrees() {
    if (live == null || live.answer() == Answer.NOT_TRIED) {
      return false;
    }
    boolean wanted = !(proof instanceof Proof.Cannot);
    boolean allowed = wanted == paper.holds();
    return (live.answer() == Answer.ALLOWED) != allowed;
  }

  /** Whether the proof holds, on paper and on the server as far as that was asked. */
  public boolean holds() {
    return paper.holds() && !disagrees();
  }
}
