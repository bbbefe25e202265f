package fiador.reviews;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Accounts that the identity list does not know. */
final class NoPerson implements Check {
  static final Asked ASKED =
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
