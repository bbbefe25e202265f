package fiador.findings.accounts;

import fiador.estate.Account;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.function.Consumer;

/** Accounts whose secret has been the same for long, as far as the server or the ledger knows. */
public final class OldSecret implements Check {
  public static final Asked ASKED =
      new Asked(
          "old-secret",
          Severity.LOW,
          "Whose secret has not been changed for long?",
          "Run fiador secret for the account.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int user = 1; user < facts.people.size(); user++) {
      Account account = facts.people.account(user);
      if (account.secretSince() == null || account.disabled() || !facts.isUser(user)) {
        continue;
      }
      long days = Duration.between(account.secretSince(), facts.now).toDays();
      if (days > facts.limits.secretDays()) {
        LocalDate since = LocalDate.ofInstant(account.secretSince(), ZoneOffset.UTC);
        Phrase said = Phrase.of("has had the same secret since " + since + ", " + days + " days");
        found.accept(Finding.about(ASKED, user, said).concerns(IntArrayList.of(user)));
      }
    }
  }
}
