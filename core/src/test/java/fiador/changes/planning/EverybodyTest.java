package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Done;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Governs;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What everybody may: given and taken as a charter says, now and of what comes later. */
class EverybodyTest {
  private static final Place HERE = new Place("roles.yaml", 4, 9);
  private static final On DATABASE = new On(NodeKind.DATABASE, "d", List.of("d"));

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .roles("maker")
          .owned(NodeKind.SCHEMA, "d.s", "maker")
          .owned(NodeKind.ROUTINE, "d.s.f()", "maker")
          .owned(NodeKind.SCHEMA, "d.other", "maker")
          .grant("PUBLIC", "connect", "d")
          .grant("PUBLIC", "create", "d.s")
          .grant("PUBLIC", "create", "d.other")
          .grant("PUBLIC", "execute", "d.s.f()");
  private final List<Wanted.Grant> grants = new ArrayList<>();
  private final List<Wanted.Member> members = new ArrayList<>();

  private void may(Privilege privilege, Wanted.Target target, boolean later) {
    Action action = new Action(privilege, List.of());
    grants.add(
        new Wanted.Grant(Wanted.EVERYBODY, List.of(action), target, true, later, false, HERE));
  }

  private Plan plan(TinyEstate estate, boolean everybody) {
    Governs governs = new Governs(List.of("s"), List.of(), List.of(), everybody);
    Wanted wanted =
        new Wanted(
            List.of(), List.of(), members, grants, List.of(), List.of(), governs, WantedSight.NONE);
    return new Planner(estate.build(), false, Set.of(), Clock.systemUTC()).plan(wanted);
  }

  private static String text(Step step) {
    if (step instanceof Revoke revoke) {
      return "- "
          + Privilege.values()[Long.numberOfTrailingZeros(revoke.privileges())].text()
          + " "
          + revoke.on().parts();
    }
    return step.toString();
  }

  private static final RevokeLater NO_LONGER_RUN =
      new RevokeLater(
          "maker", DATABASE, NodeKind.ROUTINE, Privilege.EXECUTE.bit(), "PUBLIC", false);

  @Test
  void withoutBeingGovernedNothingIsTaken() {
    assertThat(plan(tiny, false).steps()).isEmpty();
    assertThat(plan(tiny, false).notes()).anyMatch(note -> note.contains("everybody (connect"));
  }

  @Test
  void governedItGoesInTheSchemasAndOnTheirDatabaseNowAndLater() {
    Plan plan = plan(tiny, true);
    assertThat(plan.steps())
        .filteredOn(Revoke.class::isInstance)
        .extracting(EverybodyTest::text)
        .containsExactlyInAnyOrder("- connect [d]", "- create [s]", "- execute [s, f()]");
    assertThat(plan.steps()).contains(NO_LONGER_RUN);
    assertThat(plan.notes()).noneMatch(note -> note.contains("everybody"));
    assertThat(new Done(tiny.build()).missing(List.of(NO_LONGER_RUN))).hasSize(1);
  }

  @Test
  void whatPoliciesNeedIsLeftToEverybody() {
    tiny.owned(NodeKind.SCHEMA, "d.sguard", "maker")
        .guard("d", "d.sguard")
        .grant("PUBLIC", "usage", "d.sguard");
    Governs all = new Governs(List.of("*"), List.of(), List.of(), true);
    Wanted wanted =
        new Wanted(
            List.of(), List.of(), members, grants, List.of(), List.of(), all, WantedSight.NONE);
    assertThat(new Planner(tiny.build()).plan(wanted).steps())
        .filteredOn(Revoke.class::isInstance)
        .extracting(EverybodyTest::text)
        .contains("- create [other]")
        .doesNotContain("- usage [sguard]");
  }

  @Test
  void whatIsListedStays() {
    may(Privilege.CONNECT, new Single(NodeKind.DATABASE, "d"), false);
    may(Privilege.EXECUTE, new Every(Set.of(NodeKind.ROUTINE), "s"), true);
    Plan plan = plan(tiny, true);
    assertThat(plan.steps())
        .filteredOn(Revoke.class::isInstance)
        .extracting(EverybodyTest::text)
        .containsExactly("- create [s]");
    // of the schema it comes later; of the rest of the database it does not
    assertThat(plan.steps())
        .contains(
            NO_LONGER_RUN,
            new GrantLater(
                "maker",
                new On(NodeKind.SCHEMA, "d", List.of("s")),
                NodeKind.ROUTINE,
                Privilege.EXECUTE.bit(),
                "PUBLIC",
                false));
  }

  @Test
  void whatIsMissingIsGivenToEverybody() {
    may(Privilege.USAGE, new Single(NodeKind.SCHEMA, "s"), false);
    assertThat(plan(tiny, false).steps()).hasSize(1);
    assertThat(plan(tiny, false).steps().get(0).about().holder()).isEqualTo("PUBLIC");
  }

  @Test
  void theWholeServerIsGivenNarrowedAndTaken() {
    TinyEstate mariadb =
        new TinyEstate(MariadbRules.of(10, 11))
            .roles("maker")
            .owned(NodeKind.SCHEMA, "s", null)
            .grant("maker", "select", "")
            .grant("maker", "insert", "");
    Action select = new Action(Privilege.SELECT, List.of());
    Action update = new Action(Privilege.UPDATE, List.of());
    Single server = new Single(NodeKind.SERVER, "");
    Governs whole = new Governs(List.of("*"), List.of("*"), List.of("*"));
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("maker", HERE)),
            List.of(),
            List.of(),
            List.of(
                new Wanted.Grant(
                    "maker", List.of(select, update), server, true, false, false, HERE)),
            List.of(),
            List.of(),
            whole,
            WantedSight.NONE);
    On on = new On(NodeKind.SERVER, null, List.of());
    assertThat(new Planner(mariadb.build()).plan(wanted).steps())
        .containsExactlyInAnyOrder(
            new Grant(Privilege.UPDATE.bit(), on, List.of(), "maker", false),
            new Revoke(Privilege.INSERT.bit(), on, List.of(), "maker", false, null));
  }

  @Test
  void rolesForEverybodyAreAMatterOfTheServer() {
    members.add(new Wanted.Member(Wanted.EVERYBODY, "maker", Membership.PLAIN, HERE));
    assertThat(plan(tiny, false).problems())
        .extracting(problem -> problem.message())
        .containsExactly("on postgresql everybody holds no roles: say what everybody may");
    TinyEstate mariadb =
        new TinyEstate(MariadbRules.of(10, 11)).roles("maker").owned(NodeKind.SCHEMA, "s", null);
    assertThat(plan(mariadb, false).problems()).isEmpty();
    assertThat(plan(mariadb, false).steps()).hasSize(1);
  }
}
