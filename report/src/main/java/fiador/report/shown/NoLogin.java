package fiador.report.shown;

import fiador.estate.Account;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Instant;
import java.time.ZoneOffset;

/** Accounts that hold things and cannot log in: what they hold is nothing they can use now. */
public final class NoLogin {
  private NoLogin() {}

  /** Why somebody cannot log in; null where nothing is known against it. */
  public static String why(Access access, int principal, Instant now) {
    Account account = access.principals().account(principal);
    if (account.disabled()) {
      return "the account is disabled";
    }
    boolean over = account.until() != null && !account.until().isAfter(now);
    return over ? over(access, account.until()) : null;
  }

  /** That a time is over: on some servers only the secret's. */
  public static String over(Access access, Instant since) {
    String day = since.atZone(ZoneOffset.UTC).toLocalDate().toString();
    return access.rules().has(HouseFact.ONLY_SECRETS_END)
        ? "the secret is not accepted since " + day
        : "the account ended on " + day;
  }
}
