package fiador.findings.roles;

import fiador.evidence.Identities.Identity;
import fiador.evidence.PeopleOf;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Access;
import fiador.grants.Reach;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.ArrayList;
import java.util.Collection;
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
    here(facts, found);
    if (!facts.owners.people().isEmpty()) {
      elsewhere(facts, found);
    }
  }

  private static void here(Facts facts, Consumer<Finding> found) {
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

  /** One half of a duty that somebody holds on another server. */
  private record Half(String role, Access at, int account) {}

  /** One person may hold one half here and the other there, as an account of another name. */
  private static void elsewhere(Facts facts, Consumer<Finding> found) {
    PeopleOf people = new PeopleOf(facts.access, facts.owners);
    Reach reach = new Reach(facts.access);
    facts
        .expected
        .duties()
        .forEach(
            (conflict, names) -> {
              Map<String, List<Half>> halves = halves(facts, names);
              for (String name : halves.isEmpty() ? List.<String>of() : names) {
                int role = facts.named(name);
                for (int user : role < 0 ? List.<Integer>of() : facts.users(reach.below(role))) {
                  Identity person = people.of(user);
                  List<Half> others =
                      person == null ? null : halves.getOrDefault(person.key(), List.of());
                  for (Half half : others == null ? List.<Half>of() : others) {
                    if (!half.role().equals(name)) {
                      found.accept(across(user, role, half, conflict));
                    }
                  }
                }
              }
            });
  }

  private static Finding across(int user, int role, Half half, String conflict) {
    String server = half.at().about().server();
    Phrase said =
        Phrase.of("holds ")
            .who(role)
            .say(" here and " + half.role() + " on " + server + " as ")
            .say(half.at().principals().name(half.account()))
            .say(", which " + conflict + " keeps apart");
    return Finding.about(ASKED, user, said)
        .apart(conflict + " on " + server + " " + half.role())
        .concerns(IntArrayList.of(user));
  }

  /** Who holds which half on the other servers, by the person's key. */
  private static Map<String, List<Half>> halves(Facts facts, Collection<String> names) {
    Map<String, List<Half>> found = new TreeMap<>();
    for (Access other : facts.atlas.all()) {
      if (other.about().server().equals(facts.access.about().server())) {
        continue;
      }
      PeopleOf people = new PeopleOf(other, facts.owners);
      Reach reach = new Reach(other);
      for (String name : names) {
        int exact = other.principals().named(name);
        int role = exact >= 0 ? exact : other.principals().named(other.rules().fold(name));
        for (int user : role < 0 ? IntSet.of() : reach.below(role)) {
          Identity person = other.principals().isUser(user) ? people.of(user) : null;
          if (person != null) {
            found
                .computeIfAbsent(person.key(), none -> new ArrayList<>())
                .add(new Half(name, other, user));
          }
        }
      }
    }
    return found;
  }
}
