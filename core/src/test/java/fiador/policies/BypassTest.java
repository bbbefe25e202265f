package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.PostgresqlRules;
import fiador.policies.Bypass.Way;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.Test;

final class BypassTest {
  private static final String NORTH = "any\tnorth\ttrue\tfalse\tdistrict = 'north'";
  private static final String STARS = "mask\tstars\ttrue\tphone\tstars";

  private final TinyEstate tiny =
      new TinyEstate(HsqldbRules.rules())
          .users("ines", "rui")
          .roles("DBA")
          .power("DBA", Power.SUPERUSER)
          .node(NodeKind.SCHEMA, "s")
          .table("s.t", null, "district:text", "phone:text")
          .node(NodeKind.VIEW, "s.t_safe", "district", "phone")
          .reads("s.t_safe", "s.t", "district", "phone");

  private List<Way> ways() {
    return new Bypass(tiny.build(), Clock.systemUTC()).ways();
  }

  @Test
  void theViewMadeFromThePoliciesIsNoWayRound() {
    tiny.kept("s.t_safe", "s.t", true, NORTH, STARS).grant("ines", "select", "s.t_safe");
    assertThat(ways()).isEmpty();
  }

  @Test
  void whoReadsTheTableItselfGetsRoundAllOfIt() {
    tiny.kept("s.t_safe", "s.t", true, NORTH, STARS).grant("ines", "select", "s.t");
    Way way = ways().get(0);
    assertThat(way.path()).containsExactly(tiny.at("s.t"));
    assertThat(way.rows()).isTrue();
    assertThat(way.columns()).containsExactly("phone");
    assertThat(way.users()).containsExactly(tiny.principal("ines"));
    assertThat(way.powerful()).isEmpty();
  }

  /** What reads as its asker reads as the owner of the view above it. */
  @Test
  void aViewOverAViewThatReadsAsItsAskerIsAWayRound() {
    tiny.kept("s.t_safe", "s.t", true, NORTH, STARS)
        .node(NodeKind.VIEW, "s.asker", "district", "phone")
        .fact("s.asker", NodeFact.INVOKER)
        .reads("s.asker", "s.t", "district", "phone")
        .node(NodeKind.VIEW, "s.above", "phone")
        .reads("s.above", "s.asker", "phone")
        .grant("ines", "select", "s.asker")
        .grant("rui", "select", "s.above");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path())
        .containsExactly(tiny.at("s.above"), tiny.at("s.asker"), tiny.at("s.t"));
    assertThat(ways().get(0).users()).containsExactly(tiny.principal("rui"));
  }

  /** It has the policies of the view, and not those of the table under that. */
  @Test
  void whatShowsAViewOfTheTableSafelyMayShowWhatTheTableHides() {
    shownByViewAndView("any\tsome\ttrue\tfalse\tphone is null");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path())
        .containsExactly(tiny.at("s.v_safe"), tiny.at("s.v"), tiny.at("s.t"));
    assertThat(ways().get(0).columns()).containsExactly("phone");
  }

  @Test
  void whatIsMaskedThereTooIsNoWayRound() {
    shownByViewAndView("mask\tm\ttrue\tphone\tblank");
    assertThat(ways()).isEmpty();
  }

  private void shownByViewAndView(String policyOfView) {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.VIEW, "s.v", "phone")
        .reads("s.v", "s.t", "phone")
        .node(NodeKind.VIEW, "s.v_safe", "phone")
        .reads("s.v_safe", "s.v", "phone")
        .kept("s.v_safe", "s.v", true, policyOfView)
        .grant("ines", "select", "s.v_safe");
  }

  @Test
  void columnsThatNobodyMaskedAreNoWayRoundWhereRowsAreNotHiddenThere() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .grant("ines", "select", "s.t", "district")
        .grant("rui", "select", "s.t", "phone");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).users()).containsExactly(tiny.principal("rui"));
    tiny.kept("s.t_safe", "s.t", true, NORTH, STARS);
    assertThat(ways().get(0).users())
        .containsExactly(tiny.principal("ines"), tiny.principal("rui"));
  }

  @Test
  void rowsThatTheServerHidesInTheTableItselfAreHidden() {
    TinyEstate filtering =
        new TinyEstate(PostgresqlRules.of(18))
            .users("ines")
            .node(NodeKind.SCHEMA, "s")
            .grant("ines", "usage", "s")
            .table("s.t", null, "district:text", "phone:text")
            .node(NodeKind.VIEW, "s.t_safe", "district", "phone")
            .reads("s.t_safe", "s.t", "district", "phone")
            .kept("s.t", "s.t", true, NORTH)
            .kept("s.t_safe", "s.t", true, NORTH, STARS)
            .grant("ines", "select", "s.t", "district");
    assertThat(new Bypass(filtering.build(), Clock.systemUTC()).ways()).isEmpty();
    filtering.grant("ines", "select", "s.t", "phone");
    Way way = new Bypass(filtering.build(), Clock.systemUTC()).ways().get(0);
    assertThat(way.rows()).isFalse();
    assertThat(way.columns()).containsExactly("phone");
  }

  @Test
  void aViewShowsTheColumnsItReadsAndNoOthers() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.VIEW, "s.phones", "phone")
        .reads("s.phones", "s.t", "phone")
        .node(NodeKind.VIEW, "s.places", "district")
        .reads("s.places", "s.t", "district")
        .grant("ines", "select", "s.phones")
        .grant("rui", "select", "s.places");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path()).containsExactly(tiny.at("s.phones"), tiny.at("s.t"));
    assertThat(ways().get(0).rows()).isFalse();
    assertThat(ways().get(0).users()).containsExactly(tiny.principal("ines"));
  }

  @Test
  void aColumnThatOnlyDecidesWhichRowsAreThereIsNotShown() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.VIEW, "s.places", "place", "calls")
        .reads("s.places", "s.t", "district", "phone")
        .shows("s.places", "place", "s.t", "district", true)
        .showsNothing("s.places", "calls")
        .grant("rui", "select", "s.places");
    assertThat(ways()).isEmpty();
  }

  @Test
  void whatIsWorkedOutOfAValueIsToldApart() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.VIEW, "s.codes", "code", "place")
        .reads("s.codes", "s.t", "district", "phone")
        .shows("s.codes", "code", "s.t", "phone", false)
        .shows("s.codes", "place", "s.t", "district", true)
        .node(NodeKind.VIEW, "s.again", "x", "y")
        .reads("s.again", "s.codes", "code", "place")
        .shows("s.again", "x", "s.codes", "place", true)
        .shows("s.again", "y", "s.codes", "code", true)
        .grant("rui", "select", "s.codes", "place")
        .grant("ines", "select", "s.again");
    assertThat(ways()).hasSize(1);
    Way way = ways().get(0);
    assertThat(way.path()).startsWith(tiny.at("s.again"));
    assertThat(way.columns()).containsExactly("phone");
    assertThat(way.derived()).containsExactly("phone");
    assertThat(way.users()).containsExactly(tiny.principal("ines"));
  }

  @Test
  void whatAViewShowsByTwoWaysAddsUp() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.VIEW, "s.both", "place", "line")
        .node(NodeKind.VIEW, "s.lines", "line")
        .reads("s.both", "s.t", "district")
        .shows("s.both", "place", "s.t", "district", true)
        .reads("s.both", "s.lines", "line")
        .shows("s.both", "line", "s.lines", "line", true)
        .reads("s.lines", "s.t", "phone")
        .shows("s.lines", "line", "s.t", "phone", true)
        .grant("rui", "select", "s.both");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path()).containsExactly(tiny.at("s.both"), tiny.at("s.t"));
    assertThat(ways().get(0).columns()).containsExactly("phone");
    assertThat(ways().get(0).derived()).isEmpty();
  }

  @Test
  void whatStoresTheSafeViewShowsEverybodyWhatItsMakerSaw() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.VIEW, "s.on_safe", "phone")
        .reads("s.on_safe", "s.t_safe", "phone")
        .node(NodeKind.MATERIALIZED_VIEW, "s.stored", "phone")
        .reads("s.stored", "s.t_safe", "phone")
        .grant("rui", "select", "s.on_safe")
        .grant("rui", "select", "s.stored");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path())
        .containsExactly(tiny.at("s.stored"), tiny.at("s.t_safe"), tiny.at("s.t"));
    assertThat(ways().get(0).columns()).containsExactly("phone");
  }

  @Test
  void aRoutineThatReadsAsItsOwnerOpensWhatItNames() {
    tiny.kept("s.t_safe", "s.t", true, STARS)
        .node(NodeKind.ROUTINE, "s.phone_of()")
        .reads("s.phone_of()", "s.t", "phone")
        .node(NodeKind.ROUTINE, "s.as_caller()")
        .fact("s.as_caller()", NodeFact.INVOKER)
        .reads("s.as_caller()", "s.t", "phone")
        .grant("rui", "execute", "s.phone_of()")
        .grant("ines", "execute", "s.as_caller()");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path()).containsExactly(tiny.at("s.phone_of()"), tiny.at("s.t"));
    assertThat(ways().get(0).columns()).containsExactly("phone");
    assertThat(ways().get(0).users()).containsExactly(tiny.principal("rui"));
  }

  @Test
  void viewsOfViewsAreFollowed() {
    tiny.kept("s.t_safe", "s.t", true, NORTH)
        .node(NodeKind.VIEW, "s.one", "district")
        .reads("s.one", "s.t", "district")
        .node(NodeKind.VIEW, "s.two", "district")
        .reads("s.two", "s.one", "district")
        .grant("rui", "select", "s.two");
    assertThat(ways()).hasSize(1);
    assertThat(ways().get(0).path())
        .containsExactly(tiny.at("s.two"), tiny.at("s.one"), tiny.at("s.t"));
  }

  @Test
  void whomThePoliciesLetSeeAllGetsRoundNothing() {
    tiny.member("rui", "DBA")
        .kept("s.t_safe", "s.t", true, "any\tn\ttrue\tholds(\"DBA\")\tdistrict = 'north'")
        .grant("rui", "select", "s.t");
    assertThat(ways()).isEmpty();
  }

  @Test
  void superusersAreNamedApart() {
    tiny.member("rui", "DBA").kept("s.t_safe", "s.t", true, NORTH).grant("ines", "select", "s.t");
    Way way = ways().get(0);
    assertThat(way.users()).contains(tiny.principal("rui"), tiny.principal("ines"));
    assertThat(way.powerful()).containsExactly(tiny.principal("rui"));
  }

  @Test
  void whereTheServerFiltersAViewOpensOnlyWithItsOwnersExemption() {
    TinyEstate postgres =
        TinyEstate.postgresql()
            .users("ines", "root", "maker")
            .power("root", Power.SUPERUSER)
            .node(NodeKind.SCHEMA, "d.s")
            .grant("PUBLIC", "usage", "d.s")
            .table("d.s.t", "root", "district:text")
            .owned(NodeKind.VIEW, "d.s.roots", "root", "district")
            .reads("d.s.roots", "d.s.t", "district")
            .owned(NodeKind.VIEW, "d.s.makers", "maker", "district")
            .reads("d.s.makers", "d.s.t", "district")
            .owned(NodeKind.VIEW, "d.s.askers", "root", "district")
            .fact("d.s.askers", NodeFact.INVOKER)
            .reads("d.s.askers", "d.s.t", "district")
            .kept("d.s.t", "d.s.t", true, NORTH)
            .grant("PUBLIC", "select", "d.s.t")
            .grant("PUBLIC", "select", "d.s.roots")
            .grant("PUBLIC", "select", "d.s.makers")
            .grant("PUBLIC", "select", "d.s.askers");
    postgres.filter("d.s.t", postgres.rule("north", true, "PUBLIC", "...", null));
    // made once by one who sees all, and read as it is by everybody
    postgres
        .owned(NodeKind.VIEW, "d.s.on_roots", "maker", "district")
        .reads("d.s.on_roots", "d.s.roots", "district")
        .owned(NodeKind.MATERIALIZED_VIEW, "d.s.stored", "maker", "district")
        .reads("d.s.stored", "d.s.t", "district")
        .grant("ines", "select", "d.s.on_roots")
        .grant("ines", "select", "d.s.stored");
    List<Way> all = new Bypass(postgres.build(), Clock.systemUTC()).ways();
    assertThat(all.get(0).path()).containsExactly(postgres.at("d.s.t"));
    assertThat(all.get(0).powerful()).containsExactly(postgres.principal("root"));
    assertThat(all.get(0).owners()).isEmpty();
    List<Way> found = all.subList(1, all.size());
    assertThat(found.stream().map(way -> way.path().get(0)))
        .containsExactlyInAnyOrder(
            postgres.at("d.s.roots"), postgres.at("d.s.on_roots"), postgres.at("d.s.stored"));
    assertThat(found.get(0).path()).containsExactly(postgres.at("d.s.roots"), postgres.at("d.s.t"));
    assertThat(found.get(0).users())
        .containsExactlyInAnyOrder(postgres.principal("ines"), postgres.principal("maker"));
  }

  @Test
  void theSameRowsInWhateverOrderHaveTheSameDigest() {
    java.util.BitSet both = java.util.BitSet.valueOf(new long[] {3});
    RowsDigest one = new RowsDigest();
    RowsDigest other = new RowsDigest();
    one.add(new Object[] {"a", new java.math.BigDecimal("1.50")}, both);
    one.add(new Object[] {null, "x"}, both);
    other.add(new Object[] {null, "x"}, both);
    assertThat(one.sameAs(other)).isFalse();
    other.add(new Object[] {"a", new java.math.BigDecimal("1.5")}, both);
    assertThat(one.sameAs(other)).isTrue();
    one.add(new Object[] {"ab", "c"}, both);
    other.add(new Object[] {"a", "bc"}, both);
    assertThat(one.sameAs(other)).isFalse();
  }
}
