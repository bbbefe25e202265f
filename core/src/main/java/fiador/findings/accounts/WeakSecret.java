package fiador.findings.accounts;

import fiador.estate.Secret;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Accounts without a secret, or with one that is easily found out. */
public final class WeakSecret implements Check {
  public static final Asked ASKED =
      new Asked(
          "weak-secret",
          Severity.HIGH,
          "Which accounts can log in without a secret, or with one kept in an outdated way?",
          "Set a new secret; on PostgreSQL kept as scram-sha-256.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int user = 1; user < facts.people.size(); user++) {
      Secret secret = facts.people.account(user).secret();
      boolean bad = secret == Secret.NONE || secret == Secret.OUTDATED;
      if (facts.isUser(user) && bad && !facts.people.account(user).disabled()) {
        String what =
            secret == Secret.NONE ? "has no secret" : "has a secret kept in an outdated way";
        found.accept(Finding.about(ASKED, user, Phrase.of(what)).concerns(IntArrayList.of(user)));
      }
    }
  }
}
