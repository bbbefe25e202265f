package fiador.sweep.estate;

import fiador.estate.Account;
import fiador.findings.check.Limits;
import fiador.grants.Access;
import fiador.grants.Grants;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Until when answers stay as they are although nothing changes: something ends at a time. Cost:
 * principals, memberships and kinds of grant.
 */
final class Deadline {
  private final long now;
  private long next = Long.MAX_VALUE;

  private Deadline(long now) {
    this.now = now;
  }

  /** The second since 1970 from which on they may be others; {@link Long#MAX_VALUE} for never. */
  static long of(Access access, Instant now) {
    Deadline deadline = new Deadline(now.getEpochSecond());
    for (int edge = 0; edge < access.memberships().size(); edge++) {
      deadline.at(access.memberships().options(edge).until());
    }
    deadline.grants(access.grants());
    deadline.grants(access.denials());
    for (int id = 1; id < access.principals().size(); id++) {
      Account account = access.principals().account(id);
      deadline.at(account.until());
      if (account.secretSince() != null) {
        // a secret is old once so many days are over, and a day more
        deadline.at(account.secretSince().plus(Duration.ofDays(Limits.USUAL.secretDays() + 1L)));
      }
    }
    return deadline.next;
  }

  private void grants(Grants grants) {
    for (int id = 0; id < grants.differentTerms(); id++) {
      at(grants.termsAt(id).until());
    }
  }

  private void at(@Nullable Instant end) {
    if (end != null) {
      at(end.getEpochSecond());
    }
  }

  private void at(long end) {
    // what is over now was over when it was worked out
    if (end >= now) {
      next = Math.min(next, end == Long.MAX_VALUE ? end : end + 1);
    }
  }
}
