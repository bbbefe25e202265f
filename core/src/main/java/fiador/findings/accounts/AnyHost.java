package fiador.findings.accounts;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.AccountName;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Accounts that may log in from any host. */
public final class AnyHost implements Check {
  public static final Asked ASKED =
      new Asked(
          "any-host",
          Severity.MEDIUM,
          "Which accounts may log in from anywhere in the world?",
          "Limit the account to the hosts it is used from.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (!facts.access.rules().has(HouseFact.ACCOUNTS_BY_HOST)) {
      return;
    }
    for (int user = 1; user < facts.people.size(); user++) {
      boolean open =
          facts.isUser(user) && AccountName.of(facts.people.name(user)).host().equals("%");
      if (open && !facts.people.account(user).disabled()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("may log in from any host"))
                .concerns(IntArrayList.of(user)));
      }
    }
  }
}
