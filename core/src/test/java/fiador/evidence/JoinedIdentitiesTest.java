package fiador.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.Accounts.Account;
import fiador.evidence.Identities.Identity;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A list of people together with what a charter says of its users' accounts. */
class JoinedIdentitiesTest {
  private static final Accounts CHARTER =
      new Accounts(
          List.of("ines.duarte", "telemetry", "\"Rui\"", "eva"),
          Map.of(
              "ines.duarte",
              Map.of("branch", new Account("ines", List.of("10.%", "localhost"))),
              "eva",
              Map.of("dam", new Account("\"Eva\"", List.of()))));

  private static Identity person(String key, String... accounts) {
    return new Identity(key, "Name of " + key, true, null, null, List.of(accounts));
  }

  @Test
  void usersOfACharterAreThePeopleOfTheListOrTheirOwn() {
    Identities people =
        new Identities(List.of(person("p7", "ines.duarte"), person("EVA"), person("p9", "other")));
    Identities joined = people.joined(CHARTER);
    assertThat(joined.people())
        .extracting(Identity::key)
        .containsExactly("p7", "EVA", "p9", "telemetry", "Rui");
    assertThat(joined.people().get(0).accounts())
        .containsExactly("ines.duarte", "branch:ines@10.%", "branch:ines@localhost");
    assertThat(joined.people().get(1).accounts()).containsExactly("dam:Eva");
    assertThat(joined.people().get(2)).isEqualTo(people.people().get(2));
    assertThat(joined.people().get(4).accounts()).containsExactly("Rui");
  }

  @Test
  void withoutAListEveryUserOfACharterIsSomebody() {
    List<Identity> people = Identities.NOBODY.joined(CHARTER).people();
    assertThat(people).hasSize(4);
    assertThat(people.get(0).accounts())
        .containsExactly("branch:ines@10.%", "branch:ines@localhost");
    assertThat(Identities.NOBODY.joined(Accounts.SAME).people()).isEmpty();
  }
}
