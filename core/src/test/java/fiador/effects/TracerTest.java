package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.math.BigInteger;
import java.time.Clock;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;

class TracerTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "boss")
          .roles("analyst", "reader", "owner", "root")
          .node(NodeKind.SCHEMA, "d.s")
          .owned(NodeKind.TABLE, "d.s.t", "owner", "a", "b", "c");

  private Trace trace(String user, Privilege privilege, String path) {
    return trace(user, privilege, path, -1);
  }

  private Trace trace(String user, Privilege privilege, String path, int column) {
    Access access = tiny.build();
    return new Tracer(access, Clock.systemUTC())
        .trace(tiny.principal(user), privilege, tiny.at(path), column, 10);
  }

  private TinyEstate usage(String principal) {
    return tiny.grant(principal, "usage", "d.s");
  }

  @Test
  void aLivePathIsToldHopByHop() {
    usage("PUBLIC")
        .grant("reader", "select", "d.s.t")
        .member("analyst", "reader")
        .member("ines", "analyst");
    Trace trace = trace("ines", Privilege.SELECT, "d.s.t");
    assertThat(trace.state()).isEqualTo(State.LIVE);
    assertThat(trace.paths().get(0).chain())
        .containsExactly(
            tiny.principal("ines"), tiny.principal("analyst"), tiny.principal("reader"));
    assertThat(trace.pathCount()).isEqualTo(BigInteger.ONE);
    assertThat(trace.gates()).extracting(Trace.PassedGate::by).containsExactly(0, 0);
    assertThat(trace.obstacles()).isEmpty();
    assertThat(trace.remedies()).isEmpty();
  }

  @Test
  void withoutUsageOnTheSchemaItIsBlockedAndUsageIsTheRemedy() {
    tiny.grant("ines", "select", "d.s.t");
    Trace trace = trace("ines", Privilege.SELECT, "d.s.t");
    assertThat(trace.state()).isEqualTo(State.BLOCKED);
    assertThat(trace.obstacles())
        .containsExactly(
            new Obstacle.MissingGate(
                tiny.at("d.s"), Privilege.USAGE.bit(), false, tiny.principal("ines")));
    assertThat(trace.remedies())
        .containsExactly(
            new Remedy.Grant(Privilege.USAGE.bit(), tiny.at("d.s"), -1, tiny.principal("ines")));
  }

  @Test
  void aRoleThatIsNotOnAtLoginIsOnRequest() {
    usage("reader")
        .grant("reader", "select", "d.s.t")
        .member("ines", "reader", Membership.of(false, false, true));
    Trace trace = trace("ines", Privilege.SELECT, "d.s.t");
    assertThat(trace.state()).isEqualTo(State.ON_REQUEST);
    assertThat(trace.paths().get(0).switched()).isEqualTo(1);
  }

  @Test
  void afterSwitchingOnlyTheRolesRightsCountGatesToo() {
    usage("reader")
        .grant("ines", "select", "d.s.t")
        .member("ines", "reader", Membership.of(false, false, true));
    assertThat(trace("ines", Privilege.SELECT, "d.s.t").state()).isEqualTo(State.BLOCKED);
  }

  @Test
  void anOwnerHoldsAndMayGrant() {
    usage("PUBLIC").member("ines", "owner");
    Trace trace = trace("ines", Privilege.DELETE, "d.s.t");
    assertThat(trace.state()).isEqualTo(State.LIVE);
    assertThat(trace.grantable()).isTrue();
    assertThat(trace.paths().get(0).source()).isEqualTo(new Source.Owned(tiny.at("d.s.t")));
  }

  @Test
  void anOwnerWhoTookItFromHimselfIsToldThatHeMayGrantItAgain() {
    usage("PUBLIC").withheld("d.s.t", Privilege.DELETE).member("ines", "owner");
    Trace trace = trace("ines", Privilege.DELETE, "d.s.t");
    assertThat(trace.state()).isNull();
    assertThat(trace.obstacles()).containsExactly(new Obstacle.Withheld(tiny.principal("owner")));
  }

  @Test
  void aSuperuserMayAndPassesEveryGate() {
    tiny.power("boss", Power.SUPERUSER);
    Trace trace = trace("boss", Privilege.TRUNCATE, "d.s.t");
    assertThat(trace.state()).isEqualTo(State.LIVE);
    assertThat(trace.paths().get(0).source()).isEqualTo(new Source.Powered(Power.SUPERUSER));
  }

  @Test
  void aMemberOfASuperuserBecomesOneBySwitching() {
    tiny.power("root", Power.SUPERUSER).member("ines", "root");
    assertThat(trace("ines", Privilege.TRUNCATE, "d.s.t").state()).isEqualTo(State.ON_REQUEST);
  }

  @Test
  void whatEverybodyHasComesThroughPublic() {
    usage("PUBLIC").grant("PUBLIC", "select", "d.s.t");
    assertThat(trace("ines", Privilege.SELECT, "d.s.t").paths().get(0).chain())
        .containsExactly(tiny.principal("ines"), 0);
  }

  @Test
  void rightsOnSomeColumnsAreNotARightOnTheWhole() {
    usage("PUBLIC").grant("ines", "select", "d.s.t", "a", "c");
    BitSet columns = new BitSet();
    columns.set(0);
    columns.set(2);
    Trace whole = trace("ines", Privilege.SELECT, "d.s.t");
    assertThat(whole.works()).isFalse();
    assertThat(whole.obstacles()).containsExactly(new Obstacle.OnlyColumns(columns));
    assertThat(trace("ines", Privilege.SELECT, "d.s.t", 2).state()).isEqualTo(State.LIVE);
    Trace other = trace("ines", Privilege.SELECT, "d.s.t", 1);
    assertThat(other.obstacles()).containsExactly(new Obstacle.NothingGivesIt());
    assertThat(other.remedies())
        .last()
        .isEqualTo(
            new Remedy.Grant(Privilege.SELECT.bit(), tiny.at("d.s.t"), 1, tiny.principal("ines")));
  }

  @Test
  void aNoNamesTheRolesThatHaveItSmallestFirst() {
    usage("PUBLIC").grant("reader", "select", "d.s.t").grant("analyst", "select", "d.s.t");
    tiny.grant("analyst", "insert", "d.s.t").grant("analyst", "update", "d.s.t");
    assertThat(trace("ines", Privilege.SELECT, "d.s.t").remedies().subList(0, 2))
        .extracting(remedy -> ((Remedy.Join) remedy).role())
        .containsExactly(tiny.principal("reader"), tiny.principal("analyst"));
  }

  @Test
  void aViewWhoseOwnerMayNotReadWhatIsUnderItIsBlocked() {
    usage("PUBLIC").owned(NodeKind.VIEW, "d.s.v", "analyst", "x").reads("d.s.v", "d.s.t", "a");
    tiny.grant("ines", "select", "d.s.v");
    Trace trace = trace("ines", Privilege.SELECT, "d.s.v");
    assertThat(trace.state()).isEqualTo(State.BLOCKED);
    assertThat(trace.obstacles())
        .containsExactly(new Obstacle.UnderView(tiny.at("d.s.t"), tiny.principal("analyst")));
    tiny.grant("analyst", "select", "d.s.t", "a");
    assertThat(trace("ines", Privilege.SELECT, "d.s.v").state()).isEqualTo(State.LIVE);
  }

  @Test
  void anInvokerViewNeedsTheAskersOwnRight() {
    usage("PUBLIC").owned(NodeKind.VIEW, "d.s.v", "owner", "x").fact("d.s.v", NodeFact.INVOKER);
    tiny.reads("d.s.v", "d.s.t").grant("ines", "select", "d.s.v");
    assertThat(trace("ines", Privilege.SELECT, "d.s.v").obstacles())
        .containsExactly(new Obstacle.UnderView(tiny.at("d.s.t"), tiny.principal("ines")));
  }

  @Test
  void everythingOnADatabaseThatAcceptsNoConnectionsIsBlocked() {
    tiny.node(NodeKind.DATABASE, "closed").fact("closed", NodeFact.CLOSED);
    tiny.grant("ines", "create", "closed").grant("ines", "connect", "closed");
    assertThat(trace("ines", Privilege.CREATE, "closed").state()).isEqualTo(State.BLOCKED);
    assertThat(trace("ines", Privilege.CONNECT, "closed").state()).isEqualTo(State.BLOCKED);
  }

  @Test
  void pathsBeyondCountingAreCountedAndTheNearestListed() {
    // 40 layers of two roles each: two to the power of 40 ways
    usage("PUBLIC");
    String[] before = {"ines"};
    for (int layer = 0; layer < 40; layer++) {
      String[] roles = {"l" + layer + "a", "l" + layer + "b"};
      tiny.roles(roles);
      for (String member : before) {
        for (String role : roles) {
          tiny.member(member, role);
        }
      }
      before = roles;
    }
    tiny.grant(before[0], "select", "d.s.t")
        .grant(before[1], "select", "d.s.t")
        .grant("ines", "select", "d.s.t");
    Trace trace = trace("ines", Privilege.SELECT, "d.s.t");
    assertThat(trace.pathCount()).isEqualTo(BigInteger.TWO.pow(40).add(BigInteger.ONE));
    assertThat(trace.paths()).hasSize(10);
    assertThat(trace.paths().get(0).chain()).hasSize(1);
  }

  @Test
  void aChainOfRolesLongerThanAnyStackIsNoProblem() {
    usage("PUBLIC");
    String before = "ines";
    for (int i = 0; i < 30_000; i++) {
      tiny.roles("x" + i).member(before, "x" + i);
      before = "x" + i;
    }
    tiny.grant(before, "select", "d.s.t");
    assertThat(trace("ines", Privilege.SELECT, "d.s.t").state()).isEqualTo(State.LIVE);
  }

  @Test
  void theNarrowestRoleIsOfferedFirstAndThePersonLast() {
    usage("PUBLIC").grant("reader", "select", "d.s.t").member("ines", "analyst");
    tiny.roles("half").grant("half", "select", "d.s.t", "a");
    tiny.roles("pg_read_all_data").power("pg_read_all_data", Power.READ_EVERYTHING);
    List<Remedy> remedies = trace("ines", Privilege.SELECT, "d.s.t").remedies();
    assertThat(remedies.get(0))
        .isInstanceOfSatisfying(
            Remedy.Join.class, join -> assertThat(join.role()).isEqualTo(tiny.principal("reader")));
    assertThat(remedies)
        .filteredOn(Remedy.Join.class::isInstance)
        .extracting(remedy -> ((Remedy.Join) remedy).role())
        .doesNotContain(tiny.principal("half"), tiny.principal("pg_read_all_data"));
    assertThat(remedies)
        .endsWith(
            new Remedy.Grant(
                Privilege.SELECT.bit(), tiny.at("d.s.t"), -1, tiny.principal("analyst")),
            new Remedy.Grant(Privilege.SELECT.bit(), tiny.at("d.s.t"), -1, tiny.principal("ines")));
  }
}
