package fiador.findings.accounts;

import fiador.changes.steps.LetLogIn;
import fiador.evidence.Identities.Identity;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.PeopleOfAccounts;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Accounts of people who are no longer there. */
public final class LeftPerson implements Check {
  public static final Asked ASKED =
      new Asked(
          "left-person",
          Severity.HIGH,
          "Which accounts belong to people who have left?",
          "Disable the account at once; drop it when nothing belongs to it any more.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    PeopleOfAccounts list = new PeopleOfAccounts(facts);
    for (int user = 1; user < facts.people.size(); user++) {
      Identity person = facts.isUser(user) ? list.of(user) : null;
      if (person != null && !person.active() && !facts.people.account(user).disabled()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("belongs to " + person.name() + ", who has left"))
                .concerns(IntArrayList.of(user))
                .mendedBy(List.of(new LetLogIn(facts.people.name(user), false))));
      }
    }
  }
}
