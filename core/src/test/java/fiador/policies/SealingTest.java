package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Seals;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.TinyEstate;
import fiador.policies.Sealing.Passing;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class SealingTest {
  private static final Place HERE = new Place("policies.yaml", 7, 3);
  private static final Seal SEAL =
      new Seal(
          "lab",
          List.of(new Labelled("s", HERE)),
          List.of("steward", "loader", "nobody_there"),
          HERE);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("clara", "loader", "rui", "boss", "reader", "maker")
          .roles("steward", "everything")
          .owned(NodeKind.SCHEMA, "d.s", "maker")
          .owned(NodeKind.TABLE, "d.s.t", "maker", "a")
          .owned(NodeKind.TABLE, "d.s.u", "maker", "a")
          .member("clara", "steward")
          .member("reader", "everything")
          .power("boss", Power.SUPERUSER)
          .power("everything", Power.READ_EVERYTHING)
          .grant("PUBLIC", "usage", "d.s")
          .grant("steward", "select", "d.s.t")
          .grant("loader", "insert", "d.s.t")
          .grant("rui", "select", "d.s.t");

  private final Access access = Seals.noted(tiny.build(), List.of(SEAL));
  private final Sealing sealing = new Sealing(access, Clock.systemUTC());

  private int node(String path) {
    return new Lookup(access).node(path, 0, false).id();
  }

  private List<String> passing(String path) {
    List<String> found = new ArrayList<>();
    for (Passing one : sealing.passing(sealing.on(node(path)), node(path))) {
      found.add(access.principals().name(one.user()) + ": " + one.power());
    }
    return found;
  }

  @Test
  void aSealClosesWhatItIsOnAndAllThatHolds() {
    assertThat(sealing.on(node("s")).name()).isEqualTo("lab");
    assertThat(sealing.on(node("s.t")).name()).isEqualTo("lab");
    assertThat(sealing.on(node("d"))).isNull();
    assertThat(sealing.inside(sealing.on(node("s"))).size()).isEqualTo(3);
  }

  @Test
  void whomItNamesMayComeInAndWhoHoldsThem() {
    assertThat(sealing.openTo(sealing.on(node("s"))).intStream().boxed().toList())
        .extracting(id -> access.principals().name(id))
        .containsExactlyInAnyOrder("steward", "clara", "loader");
  }

  @Test
  void othersGetThroughByAGrantOrByWhatNoGrantStops() {
    assertThat(passing("s.t"))
        .containsExactlyInAnyOrder(
            "rui: null",
            "boss: superuser",
            "reader: " + Power.READ_EVERYTHING.text(),
            "maker: owner of d.s.t");
    assertThat(passing("s.u"))
        .containsExactlyInAnyOrder(
            "boss: superuser", "reader: " + Power.READ_EVERYTHING.text(), "maker: owner of d.s.u");
  }

  @Test
  void whatIsSealedStaysSoInAnEstateThatWouldBe() {
    assertThat(new fiador.grants.WhatIf(access).access().sights().seals()).hasSize(1);
  }
}
