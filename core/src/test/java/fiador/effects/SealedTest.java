package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** What is sealed opens by no power. */
class SealedTest {
  private final TinyEstate tiny =
      new TinyEstate(RandomAccess.denying())
          .users("ana", "bob", "chief")
          .roles("team")
          .power("chief", Power.SUPERUSER)
          .node(NodeKind.DATABASE, "d")
          .owned(NodeKind.SCHEMA, "d.lab", "ana")
          .owned(NodeKind.TABLE, "d.lab.t", "ana", "a")
          .node(NodeKind.SCHEMA, "d.open")
          .owned(NodeKind.VIEW, "d.open.v", "chief", "a")
          .reads("d.open.v", "d.lab.t", "a")
          .fact("d.lab", NodeFact.SEALED);

  private List<String> holders(String node) {
    Access access = tiny.build();
    return new Holders(access, Clock.systemUTC())
        .of(tiny.at(node)).stream()
            .filter(row -> row.privilege() == Privilege.SELECT)
            .map(row -> access.principals().name(row.user()) + " " + row.state().text())
            .collect(Collectors.toList());
  }

  private Trace trace(String user, String privilege, String node) {
    return new Tracer(tiny.build(), Clock.systemUTC())
        .trace(tiny.principal(user), Privilege.named(privilege), tiny.at(node), -1, 10);
  }

  @Test
  void aSuperuserIsKeptOutAndToldWhatIsMissing() {
    assertThat(holders("d.lab.t")).containsExactly("ana live", "chief blocked");
    Trace trace = trace("chief", "select", "d.lab.t");
    assertThat(trace.state()).isEqualTo(State.BLOCKED);
    assertThat(trace.obstacles())
        .containsExactly(
            new Obstacle.MissingGate(
                tiny.at("d.lab"), Privilege.USAGE.bit(), false, tiny.principal("chief")));
    // what lets people in is nothing that a superuser has
    assertThat(trace("chief", "usage", "d.lab").paths()).isEmpty();
    assertThat(trace("chief", "create", "d.lab").state()).isEqualTo(State.BLOCKED);
    assertThat(trace("chief", "usage", "d.open").state()).isEqualTo(State.LIVE);
  }

  @Test
  void whoIsLetInHoldsWhatTheyHold() {
    tiny.grant("team", "usage", "d.lab").member("chief", "team");
    assertThat(holders("d.lab.t")).containsExactly("ana live", "chief live");
    assertThat(trace("chief", "usage", "d.lab").paths()).hasSize(1);
  }

  @Test
  void aDenialKeepsEvenTheOwnerOut() {
    tiny.deny("ana", "usage", "d.lab");
    assertThat(holders("d.lab.t")).containsExactly("ana blocked", "chief blocked");
  }

  @Test
  void aViewShowsNothingOfItWhoseOwnerIsNotLetIn() {
    tiny.grant("ana", "usage", "d.open").grant("ana", "select", "d.open.v");
    assertThat(holders("d.open.v")).containsExactly("ana blocked", "chief blocked");
    tiny.grant("chief", "usage", "d.lab");
    assertThat(holders("d.open.v")).containsExactly("ana live", "chief live");
  }

  @Test
  void whereNothingIsSealedNothingIsAsked() {
    TinyEstate open =
        new TinyEstate(RandomAccess.denying())
            .users("chief")
            .power("chief", Power.SUPERUSER)
            .node(NodeKind.DATABASE, "d")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.TABLE, "d.s.t");
    Trace trace =
        new Tracer(open.build(), Clock.systemUTC())
            .trace(open.principal("chief"), Privilege.SELECT, open.at("d.s.t"), -1, 10);
    assertThat(trace.state()).isEqualTo(State.LIVE);
    assertThat(trace.gates()).isEmpty();
  }
}
