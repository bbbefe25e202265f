package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.State;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.policies.AnyWay.Reader;
import fiador.policies.AnyWay.Way;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Who gets a table's values without a right on it. */
final class AnyWayTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "lia", "keeper")
          .roles("switched")
          .member("lia", "switched", Membership.of(false, false, true))
          .owned(NodeKind.SCHEMA, "d.s", "keeper")
          .grant("PUBLIC", "usage", "d.s")
          .owned(NodeKind.TABLE, "d.s.t", "keeper", "a", "b", "c")
          .owned(NodeKind.VIEW, "d.s.v", "keeper", "x", "y")
          .reads("d.s.v", "d.s.t", "a", "b")
          .shows("d.s.v", "x", "d.s.t", "a", true)
          .shows("d.s.v", "y", "d.s.t", "b", false);

  private List<Way> ways(int column) {
    return new AnyWay(tiny.build(), Clock.systemUTC()).of(tiny.at("d.s.t"), column);
  }

  @Test
  void aViewShowsSomeAsTheyAreAndSomeWorkedOut() {
    tiny.grant("ines", "select", "d.s.v");
    Reader ines = ways(-1).get(0).readers().get(0);
    assertThat(ines.user()).isEqualTo(tiny.principal("ines"));
    assertThat(ines.asIs()).hasToString("{0}");
    assertThat(ines.workedOut()).hasToString("{1}");
    assertThat(ways(1).get(0).readers().get(0).asIs()).hasToString("{}");
    assertThat(ways(2)).isEmpty();
  }

  @Test
  void whoReadsOnlyAColumnOfTheViewGetsNoMore() {
    tiny.grant("ines", "select", "d.s.v", "y");
    assertThat(ways(0)).isEmpty();
    assertThat(ways(1)).hasSize(1);
  }

  @Test
  void whoMayReadTheTableNeedsNoOtherWay() {
    tiny.grant("ines", "select", "d.s.v").grant("ines", "select", "d.s.t", "a");
    Reader ines = ways(-1).get(0).readers().get(0);
    assertThat(ines.workedOut()).hasToString("{1}");
    tiny.grant("ines", "select", "d.s.t");
    assertThat(ways(-1)).isEmpty();
    // the owner holds it anyway
    assertThat(ways(-1)).noneMatch(way -> way.node() == tiny.at("d.s.t"));
  }

  @Test
  void whatReadsAsItsAskerIsNoWayNorIsWhatReadsItWhereTheAskerStaysTheUser() {
    tiny.fact("d.s.v", NodeFact.INVOKER).grant("ines", "select", "d.s.v");
    assertThat(ways(-1)).isEmpty();
    tiny.owned(NodeKind.VIEW, "d.s.w", "keeper", "z")
        .reads("d.s.w", "d.s.v", "x")
        .shows("d.s.w", "z", "d.s.v", "x", true)
        .grant("rui", "select", "d.s.w");
    // here it asks for a right of the user's own on the table
    assertThat(ways(-1)).isEmpty();
  }

  @Test
  void routinesAndStoredCopiesCountAndRolesToBeSwitchedOn() {
    tiny.owned(NodeKind.ROUTINE, "d.s.f()", "keeper")
        .reads("d.s.f()", "d.s.t", "c")
        .owned(NodeKind.MATERIALIZED_VIEW, "d.s.m", "keeper", "b")
        .reads("d.s.m", "d.s.t", "b")
        .grant("ines", "execute", "d.s.f()")
        .grant("switched", "select", "d.s.m");
    AnyWay anyWay = new AnyWay(tiny.build(), Clock.systemUTC());
    List<Way> ways = anyWay.of(tiny.at("d.s.t"), -1);
    assertThat(ways.stream().map(anyWay::kind)).containsExactly("routine", "stored copy");
    assertThat(ways.get(1).readers().get(0).state()).isEqualTo(State.ON_REQUEST);
  }
}
