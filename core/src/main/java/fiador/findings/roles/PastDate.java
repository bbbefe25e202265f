package fiador.findings.roles;

import fiador.changes.steps.LetLogIn;
import fiador.changes.wanted.Period;
import fiador.estate.Account;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Access whose time is over and that is still there. */
public final class PastDate implements Check {
  public static final Asked ASKED =
      new Asked(
          "past-date",
          Severity.HIGH,
          "Whose access should have ended by now?",
          "Disable the account or take the role; then ask whether the date was right.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Map<Integer, Instant> ends = facts.byId(facts.expected.ends());
    for (int user = 1; user < facts.people.size(); user++) {
      if (!facts.isUser(user)) {
        continue;
      }
      Account account = facts.people.account(user);
      Instant agreed = ends.get(user);
      boolean over = account.until() != null && account.until().isBefore(facts.now);
      boolean late = agreed != null && !facts.now.isBefore(agreed);
      if (late && !account.disabled() && !over) {
        String day = Period.endText(agreed);
        tell(facts, user, "was to end on " + day + " and can still log in", found);
      } else if (over && holdsAnything(facts, user)) {
        String day = LocalDate.ofInstant(account.until(), ZoneOffset.UTC).toString();
        tell(facts, user, "ended on " + day + " and still holds roles or grants", found);
      }
    }
    var memberships = facts.access.memberships();
    for (int edge = 0; edge < memberships.size(); edge++) {
      if (memberships.options(edge).isOver(facts.now.getEpochSecond())) {
        Phrase said = Phrase.of("still holds ").who(memberships.role(edge));
        found.accept(
            Finding.about(ASKED, memberships.member(edge), said.say(", whose time is over"))
                .apart(facts.people.name(memberships.role(edge)))
                .concerns(facts.usersOf(memberships.member(edge)))
                .mendedBy(java.util.Collections.singletonList(facts.taking.leave(edge))));
      }
    }
  }

  private static void tell(Facts facts, int user, String what, Consumer<Finding> found) {
    found.accept(
        Finding.about(ASKED, user, Phrase.of(what))
            .concerns(IntArrayList.of(user))
            .mendedBy(List.of(new LetLogIn(facts.people.name(user), false))));
  }

  private static boolean holdsAnything(Facts facts, int user) {
    var grants = facts.access.grants().byGrantee();
    var roles = facts.access.memberships().rolesOf();
    return !facts.people.account(user).disabled()
        && (grants.from(user) < grants.to(user) || roles.from(user) < roles.to(user));
  }
}
