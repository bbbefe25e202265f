package fiador.findings.accounts;

import fiador.changes.steps.DropUser;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Accounts without a name, as which anybody can log in. */
public final class NamelessAccount implements Check {
  public static final Asked ASKED =
      new Asked(
          "nameless-account",
          Severity.HIGH,
          "Can anybody log in without a name of their own?",
          "Drop the account without a name.");

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
      boolean disabled = facts.people.account(user).disabled();
      if (facts.people.isUser(user) && facts.bare(user).isEmpty() && !disabled) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("lets anybody in under any name"))
                .concerns(IntArrayList.of(user))
                .mendedBy(List.of(new DropUser(facts.people.name(user)))));
      }
    }
  }
}
