package fiador.findings.accounts;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.PeopleOfAccounts;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.util.function.Consumer;

/** People with more than one account. */
public final class SeveralAccounts implements Check {
  public static final Asked ASKED =
      new Asked(
          "several-accounts",
          Severity.LOW,
          "Who has several accounts, so that what they hold adds up unseen?",
          "Keep one, and move what the others are needed for to it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    PeopleOfAccounts list = new PeopleOfAccounts(facts);
    list.accounts()
        .forEach(
            (person, accounts) -> {
              if (accounts.size() > 1) {
                Phrase said = Phrase.of("belongs to " + person.name() + ", who also has ");
                said.whoOf(accounts.subList(1, accounts.size()));
                found.accept(Finding.about(ASKED, accounts.getInt(0), said).concerns(accounts));
              }
            });
  }
}
