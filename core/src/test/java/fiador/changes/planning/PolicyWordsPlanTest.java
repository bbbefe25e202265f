package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.ShowSafely;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.NodeKind;
import fiador.grants.TinyEstate;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.PredicateReader;
import fiador.predicates.SessionFact;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What policies can say beyond rows and masks on single tables. */
final class PolicyWordsPlanTest extends SightPlans {
  private static List<String> filtered(Plan plan) {
    return plan.steps().stream()
        .filter(FilterRows.class::isInstance)
        .map(step -> ((FilterRows) step).table().parts().get(1))
        .toList();
  }

  private void rowsOn(Wanted.Target target, boolean any, boolean bindsWriting) throws Exception {
    rows.add(
        new WantedSight.Rows(
            "p" + rows.size(),
            List.of(target),
            Map.of(),
            Expression.TRUE,
            Expression.FALSE,
            PredicateReader.read("district = 'north'"),
            HERE,
            any,
            bindsWriting,
            ViewPlace.UNSAID,
            HERE));
  }

  @Test
  void everyTableWithALabelHasThePolicyAndTheLaterOnesToo() throws Exception {
    rowsOn(new Wanted.Every(Set.of(NodeKind.TABLE), null, "open"), true, false);
    assertThat(filtered(plan(postgres()))).containsExactly("u");
    openLabel = "s";
    TinyEstate later =
        postgres().table("d.s.w", null, "district:text").node(NodeKind.VIEW, "d.s.v");
    assertThat(filtered(plan(later))).containsExactly("t", "u", "w");
    rows.clear();
    rowsOn(new Wanted.Every(Set.of(NodeKind.TABLE), "s", "open"), true, false);
    openLabel = "s.t";
    assertThat(filtered(plan(later))).containsExactly("t");
  }

  @Test
  void aTableThatLacksWhatIsMeantForItIsFound() throws Exception {
    rowsOn(new Wanted.Every(Set.of(NodeKind.TABLE), "s"), true, false);
    mask("m", "s.t.phone", "stars", 0);
    TinyEstate some =
        postgres().kept("d.s.t", "d.s.t", true, "any\tp0\ttrue\tfalse\tdistrict = 'north'");
    assertThat(PoliciesMissing.of(some.build(), wanted(true)))
        .extracting(one -> one.rows() + " " + one.masks())
        .containsExactly("[] {phone=[m]}", "[p0] {}");
    assertThat(PoliciesMissing.of(some.build(), wanted(false))).isEmpty();
    governs = "elsewhere";
    assertThat(PoliciesMissing.of(some.build(), wanted(true))).isEmpty();
  }

  @Test
  void aViewIsShownSafelyWhereThatLendsNobodyOurRights() throws Exception {
    mask("m", "s.v.district", "blank", 0);
    Plan plan = plan(postgres().node(NodeKind.VIEW, "d.s.v", "district"));
    assertThat(plan.problems()).isEmpty();
    assertThat(kinds(plan)).contains("ShowSafely").doesNotContain("FilterRows");
    assertThat(plan(maria().node(NodeKind.VIEW, "s.v", "district")).problems())
        .extracting(Problem::message)
        .anyMatch(text -> text.startsWith("s.v is a view, and on mariadb whoever may change it"));
    masks.clear();
    mask("m", "s.v.district", "blank", 0, ViewPlace.UNDER_NAME);
    assertThat(plan(postgres().node(NodeKind.VIEW, "d.s.v", "district")).problems())
        .extracting(Problem::message)
        .anyMatch(text -> text.startsWith("d.s.v is a view itself"));
  }

  @Test
  void whatWasMadeFromPoliciesHasNone() {
    mask("m", "s.t_safe.phone", "blank", 0);
    TinyEstate tiny =
        postgres()
            .node(NodeKind.VIEW, "d.s.t_safe", "district", "phone", "amount")
            .kept("d.s.t_safe", "d.s.t", true, "mask\tm\ttrue\tphone\tblank");
    assertThat(plan(tiny).problems())
        .extracting(Problem::message)
        .containsExactly("d.s.t_safe was made from policies itself: name d.s.t");
  }

  @Test
  void whatMayBeWrittenIsKeptToWhereTheServerCan() throws Exception {
    Wanted.Target table = new Wanted.Single(NodeKind.TABLE, "s.u");
    rowsOn(table, true, true);
    governs = "elsewhere";
    Plan plan =
        plan(
            postgres()
                .users("rui", "olga")
                .grant("rui", "connect", "d")
                .grant("rui", "usage", "d.s")
                .grant("rui", "insert", "d.s.u")
                .grant("olga", "connect", "d")
                .grant("olga", "usage", "d.s")
                .grant("olga", "select", "d.s.u"));
    assertThat(plan.problems()).isEmpty();
    assertThat(plan.notes())
        .contains(
            "d.s.u: rows can then be added, and changed to, only as its policies show them to who"
                + " writes; new for rui");
    governs = "s";
    assertThat(plan(maria()).problems())
        .extracting(Problem::message)
        .contains("p0 cannot say may_write of s.u: mariadb keeps no rows from being written");
    rowsOn(table, false, false);
    assertThat(plan(postgres()).problems()).isEmpty();
    rowsOn(table, true, false);
    assertThat(plan(postgres()).problems())
        .extracting(Problem::message)
        .anyMatch(text -> text.startsWith("d.s.u: of p0, p2 some say"));
  }

  @Test
  void sessionsAreAskedWhereTheServerTellsOfThem() throws Exception {
    rows("s.u", "session.application = 'billing' or session.address like '10.%'");
    Plan plan = plan(postgres());
    assertThat(plan.problems()).isEmpty();
    assertThat(plan.notes()).anyMatch(note -> note.startsWith("anybody can give their session"));
    assertThat(plan(maria()).problems())
        .extracting(Problem::message)
        .containsExactly("s.u: mariadb tells policies nothing of a session's application");
  }

  @Test
  void forWhomAMaskCountsIsCheckedToo() throws Exception {
    Expression trial =
        new Expression.Compare(
            Expression.Comparison.EQUAL,
            new Expression.Session(SessionFact.ADDRESS),
            Expression.text("10.1.2.3"));
    masks.add(
        new WantedSight.Masks(
            "m",
            List.of(new Labelled("s.t.phone", HERE)),
            List.of(),
            List.of(),
            trial,
            Map.of("otherwise", Mask.of("blank")),
            0,
            ViewPlace.UNSAID,
            HERE));
    assertThat(plan(postgres()).problems()).isEmpty();
    assertThat(plan(maria()).problems())
        .extracting(Problem::message)
        .containsExactly("mariadb tells policies nothing of a session's address");
  }

  @Test
  void whereValuesAreClearIsTypedAndCheckedLikeRows() throws Exception {
    masks.add(
        new WantedSight.Masks(
            "m",
            List.of(new Labelled("s.t", HERE)),
            List.of(),
            List.of(),
            Map.of("zone", "district"),
            Expression.TRUE,
            PredicateReader.read("zone in user.districts"),
            HERE,
            Map.of("otherwise", Mask.of("blank")),
            0,
            ViewPlace.UNSAID,
            HERE));
    Plan plan = plan(postgres());
    assertThat(plan.problems()).isEmpty();
    ShowSafely show =
        (ShowSafely)
            plan.steps().stream().filter(ShowSafely.class::isInstance).findFirst().orElseThrow();
    assertThat(show.after().policies())
        .contains("mask\tm\ttrue\tamount\tblank\tdistrict in user.districts\n");
    masks.set(
        0,
        new WantedSight.Masks(
            "m",
            List.of(new Labelled("s.t", HERE)),
            List.of(),
            List.of(),
            Map.of(),
            Expression.TRUE,
            PredicateReader.read("distric = 'x'"),
            HERE,
            Map.of("otherwise", Mask.of("blank")),
            0,
            ViewPlace.UNSAID,
            HERE));
    assertThat(plan(postgres()).problems())
        .extracting(Problem::message)
        .containsExactly("d.s.t: there is no column distric; did you mean district?");
  }
}
