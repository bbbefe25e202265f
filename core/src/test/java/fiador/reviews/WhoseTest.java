package fiador.reviews;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.reviews.Drafting.Draft;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** One person who has several accounts, here and elsewhere. */
class WhoseTest {
  private final Access access =
      TinyEstate.postgresql()
          .users("ines", "rui", "ines_admin", "eva")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "a")
          .grant("ines", "select", "d.s.t")
          .grant("rui", "select", "d.s.t")
          .grant("ines_admin", "update", "d.s.t")
          .grant("eva", "update", "d.s.t")
          .build();
  private final String here = access.about().server();
  private final Whose whose =
      new Whose(
          access,
          new Identities(
              List.of(
                  person("p1", "Inês Duarte", here + ":ines", "ines_admin", "branch:iduarte"),
                  person("p2", "RUI", "rui"))));

  private static Identity person(String key, String name, String... accounts) {
    return new Identity(key, name, true, null, null, List.of(accounts));
  }

  private String of(String user) {
    return whose.of(access.principals().named(user));
  }

  @Test
  void anAccountSaysWhoItIsAndWhatElseTheyAreCalled() {
    assertThat(of("ines")).isEqualTo("Inês Duarte; also ines_admin, iduarte on branch");
    assertThat(of("ines_admin")).isEqualTo("Inês Duarte; also ines, iduarte on branch");
    assertThat(of("rui")).as("the name says it all").isNull();
    assertThat(of("eva")).as("nobody's").isNull();
    assertThat(whose.accounts("inês duarte")).isEqualTo(Set.of("ines", "ines_admin"));
    assertThat(whose.accounts("nobody")).isEmpty();
  }

  @Test
  void accountsOfOnePersonStandTogether() {
    Scope all = new Scope(Set.of(), Set.of(), Set.of(), Set.of());
    List<Draft> drafts = new Drafting(access, all, Set.of()).drafts();
    assertThat(users(drafts)).containsExactly("ines", "rui", "ines_admin", "eva");
    assertThat(users(whose.together(drafts))).containsExactly("ines", "ines_admin", "rui", "eva");
  }

  private static List<String> users(List<Draft> drafts) {
    return drafts.stream().map(draft -> draft.about().user()).toList();
  }
}
