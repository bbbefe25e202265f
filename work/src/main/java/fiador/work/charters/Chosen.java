package fiador.work.charters;

import fiador.grants.Access;
import java.time.Clock;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What a question is answered from.
 *
 * @param access the estate
 * @param clock for when it is asked
 * @param onPaper whether there is no survey yet, so that only what the charter names is known
 * @param past which survey of the ledger it is, where it is asked about a day that is past; else
 *     null
 */
public record Chosen(Access access, Clock clock, boolean onPaper, @Nullable Past past) {
  /**
   * How sure it is that an older survey was still true: by the one after.
   *
   * @param taken when the survey was taken
   * @param next when the next was; null where there is none
   * @param same whether that one found the same
   */
  public record Past(Instant taken, @Nullable Instant next, boolean same) {}
}
