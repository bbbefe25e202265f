package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.SideBySide.How;
import fiador.effects.SideBySide.Line;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Two people's holdings, beside each other. */
final class SideBySideTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "a", "b", "c")
          .grant("PUBLIC", "usage", "d.s");

  private List<Line> lines(String one, String other) {
    Access access = tiny.build();
    Holdings holdings = new Holdings(access, CLOCK, false);
    return SideBySide.of(
            access.tree(), holdings.of(tiny.principal(one)), holdings.of(tiny.principal(other)))
        .stream()
        .filter(line -> line.node() == tiny.at("d.s.t"))
        .toList();
  }

  @Test
  void whatOneHoldsAndTheOtherNot() {
    tiny.grant("ines", "select", "d.s.t").grant("rui", "insert", "d.s.t");
    How live = new How(State.LIVE, false);
    assertThat(lines("ines", "rui"))
        .containsExactly(
            new Line(Privilege.SELECT, tiny.at("d.s.t"), null, live, null),
            new Line(Privilege.INSERT, tiny.at("d.s.t"), null, null, live));
  }

  @Test
  void columnsAreComparedOneByOne() {
    tiny.grant("ines", "select", "d.s.t").grant("rui", "select", "d.s.t", "b");
    List<Line> lines = lines("ines", "rui");
    assertThat(lines).hasSize(2);
    assertThat(lines.get(0).columns()).hasToString("{0, 2}");
    assertThat(lines.get(0).second()).isNull();
    assertThat(lines.get(1).columns()).hasToString("{1}");
    assertThat(lines.get(1).isAlike()).isTrue();
    // and the other way round the same, for the other
    assertThat(lines("rui", "ines").get(0).first()).isNull();
  }

  @Test
  void whoMayGrantOnHoldsMore() {
    tiny.grant("ines", "select*", "d.s.t").grant("rui", "select", "d.s.t");
    Line line = lines("ines", "rui").get(0);
    assertThat(line.isAlike()).isFalse();
    assertThat(line.first()).isEqualTo(new How(State.LIVE, true));
    assertThat(lines("ines", "ines").get(0).isAlike()).isTrue();
  }
}
