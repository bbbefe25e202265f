package fiador.findings.accounts;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.PeopleOfAccounts;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Accounts that the identity list does not know. */
public final class NoPerson implements Check {
  public static final Asked ASKED =
      new Asked(
          "no-person",
          Severity.MEDIUM,
          "Which accounts belong to nobody we know?",
          "Find out whose it is and enter it in the identity list, or disable it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    PeopleOfAccounts list = new PeopleOfAccounts(facts);
    for (int user = 1; user < facts.people.size() && list.isKnown(); user++) {
      if (facts.isUser(user) && list.of(user) == null && !facts.people.account(user).disabled()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("belongs to nobody in the identity list"))
                .concerns(IntArrayList.of(user)));
      }
    }
  }
}
