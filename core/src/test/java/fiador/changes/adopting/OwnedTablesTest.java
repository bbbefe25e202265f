package fiador.changes.adopting;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import java.util.List;
import org.junit.jupiter.api.Test;

/** An own table is one of "every table" only where owning it gives what the others give. */
class OwnedTablesTest {
  private static List<String> sentences(Ownership ownership) {
    TinyEstate tiny =
        new TinyEstate(
                new HouseRulesBuilder("house/x")
                    .on(NodeKind.SCHEMA, Privilege.USAGE)
                    .on(NodeKind.TABLE, Privilege.SELECT)
                    .owners(ownership)
                    .names(PostgresqlRules.of(18).names())
                    .build())
            .roles("keepers")
            .node(NodeKind.SCHEMA, "s")
            .owned(NodeKind.TABLE, "s.own", "keepers")
            .node(NodeKind.TABLE, "s.t")
            .node(NodeKind.TABLE, "s.u")
            .node(NodeKind.TABLE, "s.v");
    for (String table : List.of("s.t", "s.u", "s.v")) {
      tiny.grant("keepers", "select", table);
    }
    return Adoption.of(tiny.build(), false).roles().get(0).may();
  }

  @Test
  void whereOwningGivesNothingAnOwnTableIsNotAmongThem() {
    assertThat(sentences(Ownership.OBJECT))
        .containsExactly("select on every table and view in s, now");
    assertThat(sentences(Ownership.NONE))
        .containsExactlyInAnyOrder(
            "select on table s.t", "select on table s.u", "select on table s.v");
  }
}
