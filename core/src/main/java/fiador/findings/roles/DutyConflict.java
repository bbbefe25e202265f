package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Reach;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Users who hold roles that no one may hold together. */
public final class DutyConflict implements Check {
  static final Asked ASKED =
      new Asked(
          "duty-conflict",
          Severity.HIGH,
          "Who holds both halves of a duty that two people should share?",
          "Decide which half stays, and take the other role away.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    int umbrella = facts.umbrella();
    var memberships = facts.access.memberships();
    // administrators hold everything by design
    Reach reach = new Reach(facts.access, edge -> memberships.member(edge) != umbrella);
    facts
        .expected
        .duties()
        .forEach(
            (conflict, names) -> {
              Map<Integer, IntArrayList> held = new TreeMap<>();
              for (String name : names) {
                int role = facts.named(name);
                for (int user : role < 0 ? List.<Integer>of() : facts.users(reach.below(role))) {
                  held.computeIfAbsent(user, none -> new IntArrayList()).add(role);
                }
              }
              held.forEach(
                  (user, roles) -> {
                    if (roles.size() > 1) {
                      Phrase said = Phrase.of("holds ").who(roles.getInt(0)).say(" and ");
                      said.who(roles.getInt(1)).say(", which " + conflict + " keeps apart");
                      found.accept(
                          Finding.about(ASKED, user, said)
                              .apart(conflict)
                              .concerns(IntArrayList.of(user))
                              .through(reach.chain(user, roles.getInt(1))));
                    }
                  });
            });
  }
}
