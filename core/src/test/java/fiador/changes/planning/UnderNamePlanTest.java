package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.ordering.SightOrder;
import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Grant;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.LookupKey;
import fiador.grants.Membership;
import fiador.grants.Sights;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What is planned for a table whose view is to stand under its name. */
final class UnderNamePlanTest {
  private static final Terms TERMS =
      Terms.of(PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT), 0);
  private static final Wanted.Place HERE = new Wanted.Place("shop.yaml", 1, 1);

  private final List<Wanted.Grant> grants = new ArrayList<>();
  private final List<Wanted.Owned> owned = new ArrayList<>();
  private final List<WantedSight.Masks> masks = new ArrayList<>();
  private final List<WantedSight.Lookup> lookups = new ArrayList<>();

  private void mask(String name, String column, ViewPlace place) {
    masks.add(
        new WantedSight.Masks(
            name,
            List.of(new Labelled(column, HERE)),
            List.of(),
            List.of(),
            Expression.TRUE,
            Map.of("otherwise", Mask.of("blank")),
            0,
            place,
            HERE));
  }

  private void grant(Wanted.Target target, Privilege... privileges) {
    List<Wanted.Action> actions = new ArrayList<>();
    for (Privilege privilege : privileges) {
      actions.add(new Wanted.Action(privilege, List.of()));
    }
    grants.add(new Wanted.Grant("crew", actions, target, true, false, false, HERE));
  }

  private static Wanted.Target table(String name) {
    return new Wanted.Single(NodeKind.TABLE, name);
  }

  private static TinyEstate postgres() {
    return TinyEstate.postgresql()
        .users("ines")
        .roles("crew")
        .member("ines", "crew", Membership.PLAIN)
        .node(NodeKind.SCHEMA, "d.s")
        .table("d.s.t", "crew", "id:integer", "phone:text")
        .table("d.s.u", "crew", "id:integer");
  }

  private static TinyEstate hsqldb() {
    return new TinyEstate(HsqldbRules.rules())
        .users("INES")
        .roles("CREW")
        .member("INES", "CREW")
        .node(NodeKind.SCHEMA, "S")
        .table("S.T", null, "ID:integer", "PHONE:text");
  }

  private Gap gap(Access access) {
    WantedSight sight =
        new WantedSight(List.of(), masks, Map.of(), lookups, Map.of(), List.of(), true);
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("crew", HERE)),
            List.of(new Wanted.Principal("ines", HERE)),
            List.of(new Wanted.Member("ines", "crew", HERE)),
            grants,
            List.of(),
            owned,
            new Wanted.Governs(List.of("s"), List.of("*"), List.of("*")),
            sight);
    return Gap.between(access, wanted, false, Set.of(), Clock.systemUTC());
  }

  private static List<String> kinds(List<Step> steps) {
    return steps.stream().map(step -> step.getClass().getSimpleName()).toList();
  }

  private static List<String> given(List<Step> steps) {
    return steps.stream()
        .filter(Grant.class::isInstance)
        .map(Grant.class::cast)
        .map(
            grant ->
                grant.on().kind().text()
                    + " "
                    + String.join(".", grant.on().parts())
                    + (grant.columns().isEmpty() ? "" : " " + grant.columns()))
        .sorted()
        .toList();
  }

  @Test
  void theTableMovesThenTheViewIsMadeAndReadersFindIt() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    grant(table("s.t"), Privilege.SELECT, Privilege.INSERT);
    Gap gap = gap(postgres().build());
    assertThat(gap.plan().problems()).isEmpty();
    assertThat(kinds(gap.plan().steps())).startsWith("Guard", "MoveTable", "ShowSafely");
    MoveTable move = (MoveTable) gap.plan().steps().get(1);
    assertThat(move.from().parts()).containsExactly("s", "t");
    assertThat(move.to().parts()).containsExactly("s", "t_base");
    assertThat(given(gap.plan().steps())).contains("view s.t").doesNotContain("table s.t");
    assertThat(move.inverse().inverse()).isEqualTo(move);
  }

  @Test
  void whereOwnersCountTheTableChangesItsOwnerByItsNewName() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    owned.add(new Wanted.Owned("ines", new Wanted.Single(NodeKind.TABLE, "s.t"), false, HERE));
    Gap gap = gap(postgres().build());
    assertThat(gap.plan().problems()).isEmpty();
    assertThat(kinds(gap.plan().steps()))
        .containsSubsequence("MoveTable", "ShowSafely", "ChangeOwner");
    Access after = gap.outcome().after();
    int table = after.tree().child(after.tree().child(0, "d", n -> true), "s", n -> true);
    int base = after.tree().child(table, "t_base", n -> true);
    assertThat(after.principals().name(after.tree().owner(base))).isEqualTo("ines");
  }

  @Test
  void onceItStandsTheNameStillMeansTheTable() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    grant(table("s.t"), Privilege.SELECT, Privilege.UPDATE);
    grant(new Wanted.Every(Set.of(NodeKind.TABLE), "s"), Privilege.DELETE);
    grant(new Wanted.Every(Set.of(NodeKind.VIEW), "s"), Privilege.REFERENCES);
    Gap gap =
        gap(
            hsqldb()
                .node(NodeKind.SCHEMA, "FIADOR_GUARD")
                .table("S.T_BASE", null, "ID:integer", "PHONE:text")
                .node(NodeKind.VIEW, "S.V", "ID")
                .build());
    assertThat(gap.plan().problems())
        .extracting(Problem::message)
        .containsExactly(
            "S.T_BASE is there already: rename it, so that S.T can stand aside under that name");
    TinyEstate standing =
        new TinyEstate(HsqldbRules.rules())
            .users("INES")
            .roles("CREW")
            .member("INES", "CREW")
            .node(NodeKind.SCHEMA, "S")
            .node(NodeKind.SCHEMA, "FIADOR_GUARD")
            .table("S.T_BASE", null, "ID:integer", "PHONE:text")
            .node(NodeKind.VIEW, "S.T", "ID", "PHONE")
            .node(NodeKind.VIEW, "S.V", "ID")
            .guard(null, "FIADOR_GUARD")
            .kept("S.T", "S.T_BASE", true, "mask\tm\ttrue\tPHONE\tblank");
    Gap settled = gap(standing.build());
    assertThat(settled.plan().problems()).isEmpty();
    assertThat(given(settled.plan().steps())).containsExactly("view S.T", "view S.V");
    assertThat(kinds(settled.plan().steps())).doesNotContain("MoveTable", "ShowSafely");
  }

  @Test
  void whatStandsInTheWayIsNamed() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    mask("n", "s.t.id", ViewPlace.BESIDE);
    assertThat(gap(postgres().build()).plan().problems())
        .extracting(Problem::message)
        .contains(
            "n and another policy on d.s.t name different places for its view: one view shows what"
                + " all of them leave");
    masks.remove(1);
    Access looked = postgres().guard("d", "d.s").lookup("desk", "d.s.t", "phone", "id").build();
    String stays = "d.s.t is a lookup table of policies";
    assertThat(gap(looked).plan().problems())
        .extracting(Problem::message)
        .anyMatch(message -> message.startsWith(stays));
    lookups.add(new WantedSight.Lookup("desk", "s.t", "phone", LookupKey.USER, "id", HERE));
    assertThat(gap(postgres().build()).plan().problems())
        .extracting(Problem::message)
        .anyMatch(message -> message.startsWith(stays));
  }

  @Test
  void viewsThatGoOnReadingTheTableAreNamed() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    Access read =
        postgres()
            .owned(NodeKind.VIEW, "d.s.w", "crew", "phone")
            .reads("d.s.w", "d.s.t", "phone")
            .build();
    assertThat(gap(read).plan().notes())
        .anyMatch(note -> note.startsWith("d.s.w goes on reading the table itself, now t_base"));
  }

  @Test
  void whereGrantsStayWithNamesTheMoveCarriesThem() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    grant(table("s.t"), Privilege.SELECT, Privilege.INSERT);
    Access before =
        new TinyEstate(MariadbRules.of(10, 11))
            .users("ines@%")
            .roles("crew")
            .member("ines@%", "crew")
            .node(NodeKind.SCHEMA, "s")
            .table("s.t", null, "id:integer", "phone:text")
            .grant("crew", "s.t", TERMS)
            .build();
    Gap gap = gap(before);
    assertThat(gap.plan().problems()).isEmpty();
    MoveTable move =
        (MoveTable)
            gap.plan().steps().stream().filter(MoveTable.class::isInstance).findFirst().get();
    assertThat(move.grants()).hasSize(1);
    assertThat(move.grants().get(0).on().parts()).containsExactly("s", "t_base");
    assertThat(move.moved(move.from()).get(0).on().parts()).containsExactly("s", "t");
    assertThat(gap.plan().notes()).anyMatch(note -> note.contains("has to name s.t_base"));
  }

  @Test
  void aDefaultThatCannotBeCarriedOverIsSaid() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    Sights.Fills fills =
        new Sights.Fills(Map.of("PHONE", "CURRENT_USER", "ID", "'7'"), List.of(), List.of("ID"));
    Gap gap = gap(hsqldb().fills("S.T", fills).build());
    assertThat(gap.plan().notes())
        .filteredOn(note -> note.contains("default"))
        .containsExactly(
            "S.T.PHONE: its default (CURRENT_USER) is not carried over, so what leaves it out under"
                + " that name leaves it empty");
    assertThat(fills.plainDefault("ID")).isEqualTo("'7'");
    assertThat(
            new Sights.Fills(Map.of("A", "'x' || F('y')"), List.of(), List.of()).plainDefault("A"))
        .isNull();
  }

  @Test
  void aViewThatIsClosedMeanwhileIsGoneBeforeTheTableHasItsNameBack() {
    Access standing =
        hsqldb()
            .attribute("INES", "area", "north")
            .node(NodeKind.VIEW, "S.V", "ID", "PHONE")
            .table("S.V_BASE", null, "ID:integer", "PHONE:text")
            .kept("S.V", "S.V_BASE", true, "all\town\ttrue\tfalse\tPHONE in user.area")
            .grant("CREW", "select", "S.V")
            .build();
    List<Step> steps = new ArrayList<>(gap(standing).plan().steps());
    assertThat(kinds(steps)).endsWith("ShowSafely", "MoveTable");
    steps.add(0, new SetAttribute(null, "INES", "area", List.of("north"), List.of("delta")));
    // somebody would see other rows on the way
    List<Step> ordered = SightOrder.of(standing, steps, Clock.systemUTC()).steps();
    assertThat(ordered).hasSizeGreaterThan(steps.size());
    int gone = ordered.size();
    for (int i = 0; i < ordered.size(); i++) {
      gone = ordered.get(i) instanceof ShowSafely show && show.after() == null ? i : gone;
    }
    assertThat(ordered.get(gone + 1)).isInstanceOf(MoveTable.class);
    assertThat(kinds(ordered)).endsWith("ShowSafely", "MoveTable");
  }

  @Test
  void stepsThatKnowATableAsideAreFoundOnceItIsBack() {
    mask("m", "s.t.phone", ViewPlace.UNDER_NAME);
    grant(table("s.t"), Privilege.SELECT, Privilege.INSERT);
    Access before = postgres().grant("crew", "d.s.t", TERMS).build();
    List<Step> steps = gap(before).plan().steps();
    List<Step> back = new ArrayList<>();
    steps.forEach(step -> back.add(0, step.inverse()));
    assertThat(kinds(new Done(before).missing(back))).isEmpty();
    assertThat(new Done(before).undo(steps)).isEmpty();
    assertThat(Outcome.of(gap(before).before(), steps).after().sights().kept()).isNotEmpty();
  }
}
