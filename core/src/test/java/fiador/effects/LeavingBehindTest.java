package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import java.time.Clock;
import org.junit.jupiter.api.Test;

/** Where one role is on at a time, whoever switches leaves behind what the last one denied. */
class LeavingBehindTest {
  private static final Clock CLOCK = Clock.systemUTC();
  private static final Membership AT_LOGIN = Membership.of(false, true, true);
  private static final Membership LATER = Membership.of(false, false, true);

  private final TinyEstate tiny =
      new TinyEstate(
              new HouseRulesBuilder("house/x")
                  .on(NodeKind.TABLE, Privilege.SELECT)
                  .roles(Activation.ONE_AT_A_TIME)
                  .owners(Ownership.NONE)
                  .names(PostgresqlRules.of(18).names())
                  .with(HouseFact.DENIALS)
                  .build())
          .users("ines")
          .roles("shut", "other")
          .node(NodeKind.SCHEMA, "s")
          .node(NodeKind.TABLE, "s.t")
          .member("ines", "shut", AT_LOGIN)
          .deny("shut", "select", "s.t");

  private State state(Access access) {
    Holdings holdings = new Holdings(access, CLOCK, false);
    State found =
        holdings.at(tiny.principal("ines"), tiny.at("s.t")).stream()
            .filter(row -> row.privilege() == Privilege.SELECT)
            .findFirst()
            .orElseThrow()
            .state();
    assertThat(new Holders(access, CLOCK).of(tiny.at("s.t")))
        .anyMatch(row -> row.privilege() == Privilege.SELECT && row.state() == found);
    assertThat(holdings.count(tiny.principal("ines")))
        .isEqualTo(holdings.of(tiny.principal("ines")).size());
    return found;
  }

  private Switch first(Access access) {
    return Switching.first(
        access, CLOCK, tiny.principal("ines"), Privilege.SELECT, tiny.at("s.t"), -1);
  }

  @Test
  void anotherRoleLeavesItBehind() {
    tiny.grant("ines", "select", "s.t").member("ines", "other", LATER);
    Access access = tiny.build();
    assertThat(state(access)).isEqualTo(State.ON_REQUEST);
    assertThat(first(access)).isEqualTo(new Switch("other"));
  }

  @Test
  void noRoleAtAllLeavesItBehindToo() {
    tiny.grant("ines", "select", "s.t");
    Access access = tiny.build();
    assertThat(state(access)).isEqualTo(State.ON_REQUEST);
    assertThat(first(access)).isEqualTo(Switch.TO_NONE).hasToString("SET ROLE NONE");
  }

  @Test
  void soDoesASuperuser() {
    tiny.power("ines", Power.SUPERUSER);
    assertThat(state(tiny.build())).isEqualTo(State.ON_REQUEST);
  }

  @Test
  void whatIsDeniedToThemselvesStaysDenied() {
    tiny.grant("ines", "select", "s.t").deny("ines", "select", "s.t");
    assertThat(state(tiny.build())).isEqualTo(State.DENIED);
  }
}
