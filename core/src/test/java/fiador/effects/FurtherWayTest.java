package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import java.time.Clock;
import org.junit.jupiter.api.Test;

/** The nearest way may lead to a role that lacks something else; the one that works comes first. */
class FurtherWayTest {
  private static final Membership LATER = Membership.of(false, false, true);

  private final TinyEstate tiny =
      new TinyEstate(
              new HouseRulesBuilder("house/x")
                  .on(NodeKind.SCHEMA, Privilege.USAGE)
                  .on(NodeKind.TABLE, Privilege.SELECT)
                  .gate(new Gate(NodeKind.SCHEMA, Privilege.USAGE, false, false))
                  .roles(Activation.ONE_AT_A_TIME)
                  .owners(Ownership.NONE)
                  .names(PostgresqlRules.of(18).names())
                  .build())
          .users("ines")
          .roles("near", "opens", "far")
          .node(NodeKind.SCHEMA, "s")
          .node(NodeKind.TABLE, "s.t")
          .member("ines", "near", LATER)
          .grant("near", "select", "s.t")
          .member("ines", "opens", LATER)
          .member("opens", "far")
          .grant("opens", "usage", "s")
          .grant("far", "select", "s.t");

  @Test
  void theSwitchIsToTheRoleThatHasAllOfIt() {
    Access access = tiny.build();
    Clock clock = Clock.systemUTC();
    int ines = tiny.principal("ines");
    int table = tiny.at("s.t");
    Trace trace = new Tracer(access, clock).trace(ines, Privilege.SELECT, table, -1, 1);
    assertThat(trace.state()).isEqualTo(State.ON_REQUEST);
    assertThat(trace.paths()).hasSize(1);
    assertThat(trace.paths().get(0).chain())
        .containsExactly(ines, tiny.principal("opens"), tiny.principal("far"));
    assertThat(Switching.first(access, clock, ines, Privilege.SELECT, table, -1))
        .isEqualTo(new Switch("opens"));
  }
}
