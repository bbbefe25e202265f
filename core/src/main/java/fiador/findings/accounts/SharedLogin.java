package fiador.findings.accounts;

import fiador.estate.Principals;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Abroad;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Logins to other servers with which anybody goes on, or for which no secret is needed. */
public final class SharedLogin implements Check {
  public static final Asked ASKED =
      new Asked(
          "shared-login",
          Severity.HIGH,
          "Which logins to other servers are everybody's, or need no secret?",
          "Make a mapping with a secret for each who needs one, and drop this one.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Abroad abroad = facts.access.seen().abroad();
    for (Abroad.Login login : abroad.logins()) {
      Abroad.Place place = abroad.places().get(login.place());
      String as = login.user() == null ? "somebody" : login.user();
      String where = place.name().isEmpty() ? place.host() : place.name();
      if (login.who() == Principals.PUBLIC) {
        String said = "everybody without a mapping of their own goes on to " + where + " as " + as;
        found.accept(Finding.at(ASKED, place.in(), Phrase.of(said)).apart(where));
      } else if (!login.secretNeeded()) {
        String said = "goes on to " + where + " as " + as + " without a secret";
        found.accept(
            Finding.about(ASKED, login.who(), Phrase.of(said))
                .concerns(IntArrayList.of(login.who()))
                .apart(where));
      }
    }
  }
}
