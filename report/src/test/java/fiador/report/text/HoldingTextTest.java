package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holders;
import fiador.effects.Holdings;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Sights.Seal;
import fiador.grants.TinyEstate;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class HoldingTextTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(600), ZoneOffset.UTC);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "boss")
          .roles("reader", "keeper")
          .owned(NodeKind.SCHEMA, "d.s", "keeper")
          .owned(NodeKind.TABLE, "d.s.t", "keeper", "a", "b")
          .power("boss", Power.SUPERUSER)
          .member("ines", "reader")
          .member("rui", "reader", Membership.of(false, false, true))
          .grant("reader", "usage", "d.s")
          .grant("reader", "select", "d.s.t")
          .grant("reader", "update*", "d.s.t", "b");

  private static HoldingText text(Access access) {
    return new HoldingText(access, () -> new Tracer(access, CLOCK), 90, CLOCK.instant());
  }

  private static HolderText holderText(Access access) {
    return new HolderText(access, () -> new Tracer(access, CLOCK), 90, CLOCK);
  }

  private String holdings(String user) {
    Access access = tiny.build();
    int id = tiny.principal(user);
    return Tone.plain(text(access).holdings(id, new Holdings(access, CLOCK, false).of(id)));
  }

  private String holders(Access access, int column) {
    int table = tiny.at("d.s.t");
    return Tone.plain(holderText(access).each(table, column, new Holders(access, CLOCK).of(table)));
  }

  @Test
  void whatSomebodyHoldsStandsWithTheWayToIt() {
    assertThat(holdings("ines"))
        .startsWith("ines holds 4 privileges, all live")
        .contains("schema s")
        .contains("(b)")
        .contains("(may grant)")
        .contains("reader");
  }

  @Test
  void whatHasToBeSwitchedOnSaysSo() {
    assertThat(holdings("rui")).contains("~ on-request", "+ live").contains("connect");
  }

  @Test
  void whoHoldsNothingIsSaidToHoldNothing() {
    Access access = tiny.build();
    int ines = tiny.principal("ines");
    assertThat(Tone.plain(text(access).holdings(ines, List.of()))).startsWith("ines holds nothing");
    assertThat(Tone.plain(holderText(access).each(tiny.at("d.s.t"), -1, List.of())))
        .startsWith("nobody holds anything on table s.t");
  }

  @Test
  void holdersAreCountedInTheFirstLine() {
    assertThat(holders(tiny.build(), -1).lines().findFirst().orElseThrow())
        .startsWith("3 users hold something on table s.t, 2 of them live");
    assertThat(holders(tiny.build(), 1)).startsWith("3 users hold something on column s.t.b");
  }

  @Test
  void aSealIsNamedBelowWithWhoPasses() {
    Access access =
        tiny.build()
            .sealed(
                List.of(
                    new Seal("vault", List.of(tiny.at("d.s")), List.of(tiny.principal("keeper")))));
    assertThat(holders(access, -1))
        .contains("seal  vault: open to keeper\n")
        .contains("passed by ", "ines (by a grant)", "rui (by a grant)", "boss (superuser)");
  }

  @Test
  void theSameForPrograms() {
    Access access =
        tiny.build()
            .sealed(
                List.of(
                    new Seal("vault", List.of(tiny.at("d.s")), List.of(tiny.principal("reader")))));
    SealLines lines = new SealLines(access, new Shown(access, false), CLOCK.instant());
    Map<String, Object> document = lines.document(tiny.at("d.s.t"));
    assertThat(document).containsEntry("name", "vault").containsEntry("open_to", List.of("reader"));
    assertThat(document.get("passed_by"))
        .isEqualTo(List.of(Map.of("user", "boss", "by", "superuser")));
    assertThat(lines.document(tiny.at("d"))).isNull();
    assertThat(lines.of(tiny.at("d"))).isEmpty();
  }

  @Test
  void whomASealIsClosedToIsToldWhatOpensItAndNoGrantRoundIt() {
    TinyEstate closed =
        TinyEstate.postgresql()
            .users("eva", "loader")
            .roles("steward")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.TABLE, "d.s.t", "a")
            .grant("steward", "usage", "d.s")
            .grant("steward", "select", "d.s.t");
    Seal seal =
        new Seal(
            "vault",
            List.of(closed.at("d.s")),
            List.of(closed.principal("steward"), closed.principal("loader")));
    Access access = closed.build().sealed(List.of(seal));
    String said =
        new TraceText(access, 90, CLOCK.instant())
            .text(
                new Tracer(access, CLOCK)
                    .trace(
                        closed.principal("eva"),
                        fiador.estate.Privilege.SELECT,
                        closed.at("d.s.t"),
                        -1,
                        5));
    assertThat(Tone.plain(said))
        .startsWith("no: eva may not SELECT s.t")
        .contains("the seal vault closes it to eva")
        .contains("vault: open to steward, loader")
        .contains("opens   membership in steward")
        .doesNotContain("a direct grant");
  }
}
