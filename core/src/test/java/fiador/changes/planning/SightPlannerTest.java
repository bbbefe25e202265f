package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Done;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.NodeKind;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

final class SightPlannerTest extends SightPlans {
  @Test
  void aServerThatFiltersRowsGetsARuleAndReadersStay() throws Exception {
    rows("s.t", "district in user.districts");
    grant(new Wanted.Single(NodeKind.TABLE, "s.t"), false);
    Plan plan = plan(postgres().grant("reader", "select", "d.s.t"));
    assertThat(plan.problems()).isEmpty();
    assertThat(kinds(plan)).containsExactly("Guard", "SetAttribute", "FilterRows");
    FilterRows filter = (FilterRows) plan.steps().get(2);
    assertThat(filter.after()).isEqualTo("any\town\ttrue\tfalse\tdistrict in user.districts\n");
    assertThat(filter.inverse()).isInstanceOf(FilterRows.class);
  }

  @Test
  void elsewhereAViewTakesOverTheReaders() throws Exception {
    rows("s.t", "district in user.districts");
    grant(new Wanted.Single(NodeKind.TABLE, "s.t"), false);
    TinyEstate tiny = new TinyEstate(HsqldbRules.rules());
    tiny.users("INES")
        .roles("READER")
        .member("INES", "READER")
        .node(NodeKind.SCHEMA, "S")
        .table("S.T", null, "DISTRICT:text")
        .grant("READER", "select", "S.T");
    Plan plan = plan(tiny);
    assertThat(plan.problems()).isEmpty();
    assertThat(kinds(plan))
        .containsExactly("Guard", "SetAttribute", "SetAttribute", "ShowSafely", "Grant", "Revoke");
    ShowSafely show = (ShowSafely) plan.steps().get(3);
    assertThat(show.before()).isNull();
    assertThat(show.after().view().parts()).containsExactly("S", "T_SAFE");
    Grant grant = (Grant) plan.steps().get(4);
    assertThat(grant.on().parts()).containsExactly("S", "T_SAFE");
    Revoke revoke = (Revoke) plan.steps().get(5);
    assertThat(revoke.on().parts()).containsExactly("S", "T");
  }

  @Test
  void onAServerWithoutSuchRulesAGrantOnTheSchemaIsSpelledOut() {
    mask("m", "s.t.phone", "stars", 0);
    grant(new Wanted.Every(Set.of(NodeKind.TABLE, NodeKind.VIEW), "s"), true);
    Plan plan = plan(maria());
    assertThat(plan.problems()).isEmpty();
    assertThat(plan.steps())
        .filteredOn(Grant.class::isInstance)
        .extracting(step -> ((Grant) step).on().parts().get(1))
        .containsExactlyInAnyOrder("t_safe", "t", "u");
    assertThat(openColumns(plan)).doesNotContain("phone").isNotEmpty();
    assertThat(plan.notes()).anyMatch(note -> note.contains("settle again"));
  }

  /** The columns in which the table itself goes on being read. */
  private static List<String> openColumns(Plan plan) {
    return plan.steps().stream()
        .filter(step -> step instanceof Grant grant && grant.on().parts().get(1).equals("t"))
        .flatMap(step -> ((Grant) step).columns().stream())
        .toList();
  }

  @Test
  void whereRowsAreHiddenByAViewNoColumnOfTheTableStaysOpen() throws Exception {
    mask("m", "s.t.phone", "stars", 0);
    rows("s.t", "phone <> 'x'");
    grant(new Wanted.Single(NodeKind.TABLE, "s.t"), false);
    Plan plan = plan(maria());
    assertThat(plan.problems()).isEmpty();
    assertThat(openColumns(plan)).isEmpty();
    assertThat(plan.steps())
        .filteredOn(Grant.class::isInstance)
        .extracting(step -> ((Grant) step).on().parts().get(1))
        .containsExactly("t_safe");
  }

  @Test
  void arithmeticOfMoreDigitsThanAServerHasIsRefusedBeforehand() throws Exception {
    rows("s.t", "amount * amount > 7 or amount + 2 * 3 > 5");
    assertThat(plan(maria()).problems()).isEmpty();
    rows.clear();
    rows("s.t", "not (amount * amount * (amount * 2 + 1) <= 7)");
    assertThat(plan(maria()).problems().toString())
        .contains("mariadb reckons with 65 digits at most, and this may come to 92");
    assertThat(plan(postgres()).problems()).isEmpty();
  }

  @Test
  void withoutGovernsATableCannotBeClosed() {
    governs = "other";
    mask("m", "s.t.phone", "stars", 0);
    assertThat(plan(maria()).problems())
        .extracting(Problem::message)
        .containsExactly(
            "s.t is to be read only through a safe view, so its schema must stand under"
                + " \"governs\": else who may read the table itself goes on doing so");
  }

  @Test
  void somebodyElsesViewOfThatNameIsLeftAlone() {
    mask("m", "s.t.phone", "stars", 0);
    Plan plan = plan(maria().node(NodeKind.VIEW, "s.t_safe", "district"));
    assertThat(plan.problems().get(0).message()).contains("was not made from policies");
  }

  @Test
  void anAnonymousAccountStandsAgainstPolicies() {
    mask("m", "s.t.phone", "stars", 0);
    assertThat(plan(maria().users("@%")).problems().get(0).message())
        .contains("lets anybody come in under any name");
  }

  @Test
  void whatDoesNotFitTheTableIsNamedWithItsPlace() throws Exception {
    rows("s.t", "amount = 'x'");
    rows("s.w", "amount = 1");
    mask("m", "s.t.phone", "zero", 0);
    mask("n", "s.t.fone", "stars", 0);
    assertThat(plan(maria()).problems())
        .extracting(Problem::toString)
        .containsExactly(
            "policies.yaml:9:20: s.t: a text cannot be compared with a number",
            "policies.yaml:3:5: there is no s.w on box; did you mean s.t or s.u or s?",
            "policies.yaml:3:5: zero cannot mask s.t.phone, which is text",
            "policies.yaml:3:5: s.t has no column fone; did you mean phone?");
  }

  @Test
  void noMaskIsPutOnWhatTheServerAddsToEveryTable() {
    TinyEstate tiny =
        postgres()
            .table("d.s.w", null, "ctid:text", "phone:text")
            .grant("reader", "select", "d.s.w");
    mask("named", "s.w.ctid", "blank", 0);
    assertThat(plan(tiny).problems())
        .extracting(Problem::toString)
        .containsExactly(
            "policies.yaml:3:5: d.s.w.ctid is a column of the server itself: no mask can be put on"
                + " it, and views that mask leave it out");
    masks.clear();
    mask("all", "s.w", "blank", 0);
    Plan plan = plan(tiny);
    assertThat(plan.problems()).isEmpty();
    assertThat(plan.steps())
        .filteredOn(ShowSafely.class::isInstance)
        .singleElement()
        .satisfies(
            step ->
                assertThat(((ShowSafely) step).after().policies())
                    .contains("phone")
                    .doesNotContain("ctid"));
  }

  @Test
  void whatAServerCannotDoIsSaidBeforeAnythingRuns() throws Exception {
    rows("S.T", "amount = 1 and not (district < 'm')");
    mask("m", "S.T.PHONE", "digest", 0);
    governs = "S";
    TinyEstate tiny =
        new TinyEstate(HsqldbRules.rules())
            .users("INES")
            .roles("READER")
            .node(NodeKind.SCHEMA, "S")
            .table("S.T", null, "DISTRICT:text", "PHONE:text", "AMOUNT:decimal");
    assertThat(plan(tiny).problems())
        .extracting(Problem::toString)
        .containsExactly(
            "policies.yaml:9:11: S.T: hsqldb has no exact order of texts; =, <>, in and like work"
                + " there",
            "policies.yaml:3:5: hsqldb has no function for digests: mask S.T.PHONE otherwise there");
  }

  @Test
  void twoMasksOfOneRankOnOneColumnAreAConflictForSomebody() {
    mask("m", "s.t.phone", "stars", 1);
    mask("n", "s.t.phone", "blank", 1);
    assertThat(plan(maria()).problems().get(0).message())
        .contains("s.t.phone is masked twice for ines, by m and n");
    masks.remove(1);
    mask("n", "s.t.phone", "blank", 0);
    Plan plan = plan(maria());
    assertThat(plan.problems()).isEmpty();
    ShowSafely show =
        (ShowSafely)
            plan.steps().stream().filter(ShowSafely.class::isInstance).findAny().orElseThrow();
    assertThat(show.after().policies()).startsWith("mask\tn\t");
  }

  private TinyEstate settled(boolean asMade) {
    return maria()
        .node(NodeKind.SCHEMA, "fiador_guard")
        .guard("", "fiador_guard")
        .attribute("ines", "districts", "north")
        .node(NodeKind.VIEW, "s.t_safe", "district", "phone", "amount")
        .kept("s.t_safe", "s.t", asMade, "mask\tm\ttrue\tphone\tstars");
  }

  @Test
  void whatIsThereAlreadyNeedsNothing() {
    mask("m", "s.t.phone", "stars", 0);
    assertThat(kinds(plan(settled(true)))).doesNotContain("ShowSafely", "Guard", "SetAttribute");
  }

  @Test
  void whatWasChangedByHandOrInTheCharterIsMadeAnewInOneStep() {
    mask("m", "s.t.phone", "stars", 0);
    assertThat(kinds(plan(settled(false)))).containsOnlyOnce("ShowSafely");
    masks.clear();
    mask("m", "s.t.phone", "blank", 0);
    Plan plan = plan(settled(true));
    assertThat(kinds(plan)).containsOnlyOnce("ShowSafely");
    ShowSafely show =
        (ShowSafely)
            plan.steps().stream().filter(ShowSafely.class::isInstance).findAny().orElseThrow();
    assertThat(show.before().policies()).contains("stars");
    assertThat(show.inverse()).isEqualTo(new ShowSafely(show.after(), show.before()));
  }

  @Test
  void policiesThatAreNoLongerThereGoLast() {
    grant(new Wanted.Single(NodeKind.TABLE, "s.t"), false);
    List<String> kinds = kinds(plan(settled(true).grant("reader", "select", "s.t_safe")));
    assertThat(kinds).contains("Grant", "Revoke").endsWith("ShowSafely");
  }

  @Test
  void aCharterThatSpeaksOfNoPoliciesLeavesThemAlone() {
    grant(new Wanted.Single(NodeKind.TABLE, "s.t"), false);
    Plan plan = gap(settled(true).build(), false).plan();
    assertThat(kinds(plan)).doesNotContain("ShowSafely");
    // and what is granted on the table still goes to the view that stands for it
    assertThat(plan.steps())
        .filteredOn(Grant.class::isInstance)
        .extracting(step -> ((Grant) step).on().parts().get(1))
        .containsExactlyInAnyOrder("t_safe", "t");
    assertThat(openColumns(plan)).doesNotContain("phone").isNotEmpty();
    assertThat(plan.notes()).anyMatch(note -> note.contains("row_policies: {}"));
  }

  @Test
  void labelledThingsAreThoseThatCarryTheLabel() {
    grant(new Wanted.Every(Set.of(NodeKind.TABLE), "s", "open"), false);
    assertThat(plan(maria()).steps())
        .filteredOn(Grant.class::isInstance)
        .extracting(step -> ((Grant) step).on().parts().get(1))
        .containsExactly("u");
  }

  @Test
  void aSealIsForNobodyElse() {
    grant(new Wanted.Single(NodeKind.TABLE, "s.t"), false);
    seals.add(new WantedSight.Seal("shut", List.of(new Labelled("s", HERE)), List.of(), HERE));
    assertThat(plan(maria()).problems().get(0).toString())
        .startsWith(
            "policies.yaml:3:5: the seal shut is open to others too: ines@% (select on s.t)");
    seals.set(
        0, new WantedSight.Seal("shut", List.of(new Labelled("s", HERE)), List.of("reader"), HERE));
    assertThat(plan(maria()).problems()).isEmpty();
  }

  @Test
  void stepsAboutPoliciesAreDoneWhenTheServerShowsThem() {
    mask("m", "s.t.phone", "stars", 0);
    List<Step> steps = plan(maria()).steps();
    Done done = new Done(settled(true).build());
    assertThat(steps).filteredOn(SightStep.class::isInstance).allMatch(done::isDone);
    Done nothing = new Done(maria().build());
    assertThat(steps).filteredOn(SightStep.class::isInstance).noneMatch(nothing::isDone);
    assertThat(steps)
        .filteredOn(SightStep.class::isInstance)
        .allMatch(step -> nothing.isDone(step.inverse()));
  }
}
