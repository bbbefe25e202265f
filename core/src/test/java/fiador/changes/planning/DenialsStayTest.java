package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Deny;
import fiador.changes.steps.On;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.Ownership;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A denial on a schema reaches what is in it, or does not, as the house says. */
class DenialsStayTest {
  private static boolean readsAfterADenialOfTheSchema(HouseFact... facts) {
    TinyEstate tiny =
        new TinyEstate(
                new HouseRulesBuilder("house/x")
                    .on(NodeKind.SCHEMA, Privilege.SELECT)
                    .on(NodeKind.TABLE, Privilege.SELECT)
                    .owners(Ownership.OBJECT)
                    .names(HsqldbRules.rules().names())
                    .with(facts)
                    .build())
            .users("ines")
            .node(NodeKind.SCHEMA, "s")
            .node(NodeKind.TABLE, "s.t", "a")
            .grant("ines", "select", "s.t");
    On schema = new On(NodeKind.SCHEMA, null, List.of("s"));
    Deny deny = new Deny(Privilege.SELECT.bit(), schema, List.of(), "ines", false);
    Access after = Outcome.of(tiny.build(), List.of(deny)).after();
    return new Holdings(after, Clock.systemUTC(), false)
        .at(tiny.principal("ines"), tiny.at("s.t")).stream()
            .map(Holding::state)
            .anyMatch(state -> state.works());
  }

  @Test
  void itDoesAsTheHouseSays() {
    assertThat(readsAfterADenialOfTheSchema(HouseFact.DENIALS, HouseFact.SCHEMA_GRANTS_REACH_DOWN))
        .isFalse();
    assertThat(
            readsAfterADenialOfTheSchema(
                HouseFact.DENIALS, HouseFact.SCHEMA_GRANTS_REACH_DOWN, HouseFact.DENIALS_STAY))
        .isTrue();
    assertThat(readsAfterADenialOfTheSchema(HouseFact.DENIALS)).isTrue();
  }
}
