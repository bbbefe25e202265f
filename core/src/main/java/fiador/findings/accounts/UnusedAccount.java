package fiador.findings.accounts;

import fiador.changes.steps.LetLogIn;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.Consumer;

/** Accounts that did nothing for a long time. */
public final class UnusedAccount implements Check {
  public static final Asked ASKED =
      new Asked(
          "unused-account",
          Severity.MEDIUM,
          "Which accounts did nothing as long as usage was watched?",
          "Ask its owner; then disable it, and drop it later.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  /** How long usage was watched. */
  public static long days(Facts facts) {
    return Duration.between(facts.evidence.from(), facts.evidence.to()).toDays();
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (facts.evidence == null) {
      return;
    }
    long days = days(facts);
    Instant since = facts.evidence.to().minus(Duration.ofDays(facts.limits.unusedDays()));
    if (days < facts.limits.unusedDays()) {
      return;
    }
    for (int user = 1; user < facts.people.size(); user++) {
      if (!facts.isUser(user) || facts.people.account(user).disabled()) {
        continue;
      }
      Instant last = facts.evidence.seen().get(user);
      if (last == null || last.isBefore(since)) {
        String when =
            last == null
                ? "did nothing in the " + days + " days that were watched"
                : "did nothing for "
                    + Duration.between(last, facts.evidence.to()).toDays()
                    + " days";
        found.accept(
            Finding.about(ASKED, user, Phrase.of(when))
                .concerns(IntArrayList.of(user))
                .mendedBy(List.of(new LetLogIn(facts.people.name(user), false))));
      }
    }
  }
}
