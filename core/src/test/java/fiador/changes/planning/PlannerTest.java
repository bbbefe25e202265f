package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.On;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.PaperProblems;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.KnownHouses;
import fiador.grants.rules.MariadbRules;
import fiador.grants.rules.PostgresqlRules;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class PlannerTest {
  private static final Place HERE = new Place("roles.yaml", 4, 9);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .roles("reader", "maker")
          .owned(NodeKind.SCHEMA, "d.s", "maker")
          .owned(NodeKind.TABLE, "d.s.t", "maker", "a", "b")
          .owned(NodeKind.VIEW, "d.s.v", "maker", "a");

  private static Wanted wanted(Wanted.Grant... grants) {
    return new Wanted(
        List.of(new Wanted.Principal("reader", HERE)), List.of(), List.of(), List.of(grants));
  }

  private static Wanted.Grant grant(Target target, boolean later, Action... actions) {
    return new Wanted.Grant("reader", List.of(actions), target, true, later, false, HERE);
  }

  private static Action select(String... columns) {
    return new Action(Privilege.SELECT, List.of(columns));
  }

  private Plan plan(Wanted wanted) {
    return new Planner(tiny.build()).plan(wanted);
  }

  @Test
  void whatIsMissingIsCreatedInAnOrderThatWorks() {
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("analyst", HERE), new Wanted.Principal("reader", HERE)),
            List.of(new Wanted.Principal("rui", HERE), new Wanted.Principal("ines", HERE)),
            List.of(
                new Wanted.Member("analyst", "reader", HERE),
                new Wanted.Member("rui", "analyst", HERE)),
            List.of());
    assertThat(plan(wanted).steps())
        .containsExactly(
            new CreateRole("analyst"),
            new CreateUser("rui"),
            new GiveRole("reader", "analyst", Membership.PLAIN, null, true),
            new GiveRole("analyst", "rui", Membership.PLAIN, null, true));
  }

  @Test
  void everyTableAndViewMeansEachThatIsThere() {
    Target every = new Every(Set.of(NodeKind.TABLE, NodeKind.VIEW), "s");
    Plan plan = plan(wanted(grant(every, false, select())));
    assertThat(plan.steps())
        .extracting(step -> ((Grant) step).on().parts())
        .containsExactly(List.of("s", "t"), List.of("s", "v"));
  }

  @Test
  void laterIsSaidForEverybodyWhoOwnsSomethingThere() {
    Plan plan = plan(wanted(grant(new Every(Set.of(NodeKind.TABLE), "s"), true, select())));
    assertThat(plan.steps())
        .contains(
            new GrantLater(
                "maker",
                new On(NodeKind.SCHEMA, "d", List.of("s")),
                NodeKind.TABLE,
                Privilege.SELECT.bit(),
                "reader",
                false));
  }

  @Test
  void whatIsThereAlreadyIsNotGivenAgain() {
    tiny.grant("reader", "select", "d.s.t");
    assertThat(plan(wanted(grant(new Single(null, "s.t"), false, select()))).isEmpty()).isTrue();
    assertThat(plan(wanted(grant(new Single(null, "s.t"), false, select("a")))).isEmpty()).isTrue();
  }

  @Test
  void onlyTheMissingPartOfAGrantIsGiven() {
    tiny.grant("reader", "select", "d.s.t", "a");
    Plan plan =
        plan(
            wanted(
                grant(
                    new Single(null, "s.t"),
                    false,
                    select("a"),
                    new Action(Privilege.INSERT, List.of("b")))));
    assertThat(plan.steps()).hasSize(1);
    Grant step = (Grant) plan.steps().get(0);
    assertThat(step.privileges()).isEqualTo(Privilege.INSERT.bit());
    assertThat(step.columns()).containsExactly("b");
  }

  @Test
  void theGrantOptionIsGivenToWhoHasThePrivilegeWithoutIt() {
    tiny.grant("reader", "select", "d.s.t");
    Wanted.Grant withOption =
        new Wanted.Grant(
            "reader", List.of(select()), new Single(null, "s.t"), true, false, true, HERE);
    assertThat(plan(wanted(withOption)).steps()).hasSize(1);
  }

  @Test
  void columnsWithTheGrantOptionAreGivenBesideTheWholeWithoutIt() {
    tiny.grant("reader", "select", "d.s.t");
    Wanted.Grant whole = grant(new Single(null, "s.t"), false, select());
    Wanted.Grant columns =
        new Wanted.Grant(
            "reader", List.of(select("a")), new Single(null, "s.t"), true, false, true, HERE);
    assertThat(plan(wanted(whole, columns)).steps())
        .containsExactly(
            new Grant(
                Privilege.SELECT.bit(),
                new On(NodeKind.TABLE, "d", List.of("s", "t")),
                List.of("a"),
                "reader",
                true));
  }

  private Plan powers(TinyEstate estate, Power... powers) {
    Wanted.Principal ines =
        new Wanted.Principal("ines", Wanted.LoginTerms.PLAIN, null, null, Set.of(powers), HERE);
    Wanted wanted = new Wanted(List.of(), List.of(ines), List.of(), List.of());
    return new Planner(estate.build()).plan(wanted);
  }

  @Test
  void powersAreGivenAndTakenWhereTheCharterSaysWhich() {
    tiny.power("ines", Power.CREATE_DATABASES);
    assertThat(powers(tiny, Power.MANAGE_ROLES).steps())
        .containsExactlyInAnyOrder(
            new SetPower("ines", Power.MANAGE_ROLES, true),
            new SetPower("ines", Power.CREATE_DATABASES, false));
    assertThat(powers(tiny, Power.CREATE_DATABASES).steps()).isEmpty();
    assertThat(
            plan(new Wanted(
                    List.of(), List.of(new Wanted.Principal("ines", HERE)), List.of(), List.of()))
                .steps())
        .as("nothing is said")
        .isEmpty();
    tiny.power("ines", Power.SUPERUSER);
    assertThat(powers(tiny).steps()).isEmpty();
    assertThat(powers(new TinyEstate(HsqldbRules.rules()).users("INES")).notes())
        .contains("hsqldb has no powers to set: \"powers\" of ines is left out");
  }

  private Plan builtIn(List<String> governed, String... roles) {
    List<Wanted.Member> members = new java.util.ArrayList<>();
    for (String role : roles) {
      members.add(new Wanted.Member("ines", role, HERE));
    }
    Wanted wanted =
        new Wanted(
            List.of(),
            List.of(new Wanted.Principal("ines", HERE)),
            members,
            List.of(),
            List.of(),
            List.of(),
            new Wanted.Governs(List.of("s"), governed, List.of("*")),
            WantedSight.NONE);
    return plan(wanted);
  }

  @Test
  void aRoleOfTheServersOwnIsGivenAndTakenOnlyWhereItIsNamed() {
    tiny.roles("pg_monitor", "pg_read_all_data").member("ines", "pg_read_all_data");
    assertThat(builtIn(List.of("*"), "pg_monitor").steps())
        .containsExactly(new GiveRole("pg_monitor", "ines", Membership.PLAIN, null, true));
    assertThat(builtIn(List.of("*", "pg_read_*")).steps())
        .singleElement()
        .extracting(step -> ((TakeRole) step).role())
        .isEqualTo("pg_read_all_data");
    tiny.power("pg_read_all_data", Power.READ_EVERYTHING);
    Plan named = builtIn(List.of("*", "pg_read_*"), "pg_read_all_data");
    assertThat(named.steps()).isEmpty();
    assertThat(named.notes()).noneMatch(note -> note.contains("pg_read_all_data"));
    assertThat(builtIn(List.of("*"), "pg_read_all_data").notes())
        .anyMatch(note -> note.contains("ines (member of pg_read_all_data)"));
  }

  @Test
  void aRoleOfTheServersOwnThatIsNotThereIsAProblemAndAnotherServersANote() {
    assertThat(builtIn(List.of(), "pg_monitr").problems())
        .extracting(Problem::message)
        .containsExactly("there is no role pg_monitr on box");
    assertThat(builtIn(List.of(), "DBA").steps()).isEmpty();
    assertThat(builtIn(List.of(), "DBA").notes())
        .contains("postgresql has no role DBA: it is left out");
  }

  @Test
  void anOwnerNeedsNoGrantOnWhatItOwns() {
    Wanted.Grant own =
        new Wanted.Grant(
            "maker", List.of(select()), new Single(null, "s.t"), true, false, false, HERE);
    assertThat(plan(wanted(own)).isEmpty()).isTrue();
  }

  @Test
  void allMeansEveryPrivilegeOfTheKind() {
    Plan plan = plan(wanted(grant(new Single(null, "s.t"), false, new Action(null, List.of()))));
    assertThat(((Grant) plan.steps().get(0)).privileges())
        .isEqualTo(PostgresqlRules.of(18).privilegesOn(NodeKind.TABLE));
  }

  @Test
  void whatCannotBeMetIsAProblemAtItsPlace() {
    Plan plan =
        plan(
            wanted(
                grant(new Single(null, "s.tt"), false, select()),
                grant(new Single(NodeKind.SEQUENCE, "s.t"), false, new Action(null, List.of())),
                grant(new Single(null, "s.t"), false, select("zz"))));
    assertThat(plan.problems())
        .extracting(Problem::toString)
        .hasSize(3)
        .allMatch(problem -> problem.startsWith("roles.yaml:4:9: "))
        .anyMatch(problem -> problem.contains("there is no s.tt"))
        .anyMatch(problem -> problem.contains("is a table, not a sequence"))
        .anyMatch(problem -> problem.contains("has no column zz"));
  }

  @Test
  void aUserWhereARoleIsWantedIsAProblem() {
    Wanted wanted =
        new Wanted(List.of(new Wanted.Principal("ines", HERE)), List.of(), List.of(), List.of());
    assertThat(plan(wanted).problems().get(0).message())
        .contains("is to be a role, but the server has a user");
  }

  @Test
  void whatTheWholeServerKnowsCannotBeKnownInOneDatabaseOnly() {
    Wanted.Principal local = new Wanted.Principal("rui", Wanted.LoginTerms.PLAIN, "d", null, HERE);
    Wanted wanted = new Wanted(List.of(), List.of(local), List.of(), List.of());
    for (String kind : List.of("postgresql", "mariadb", "hsqldb")) {
      assertThat(PaperProblems.of(wanted, KnownHouses.of(kind, "18")))
          .singleElement()
          .extracting(Problem::toString)
          .asString()
          .startsWith("roles.yaml:4:9: rui is to be known in d only, but " + kind);
    }
  }

  @Test
  void usersAreGivenNothingWhereOnlyRolesAre() {
    Wanted.Action reads = new Wanted.Action(Privilege.SELECT, List.of());
    Wanted.Target table = new Wanted.Single(NodeKind.TABLE, "s.t");
    Wanted wanted =
        new Wanted(
            List.of(),
            List.of(new Wanted.Principal("rui", HERE)),
            List.of(),
            List.of(new Wanted.Grant("rui", List.of(reads), table, true, false, true, HERE)));
    HouseRules rules =
        new HouseRulesBuilder("house/x")
            .names(PostgresqlRules.of(18).names())
            .with(HouseFact.ROLES_ONLY)
            .build();
    assertThat(PaperProblems.of(wanted, rules))
        .extracting(Problem::message)
        .containsExactly(
            "house/x has no right to grant on",
            "house/x gives privileges to roles only: give rui a role");
    assertThat(PaperProblems.of(wanted, PostgresqlRules.of(18))).isEmpty();
  }

  @Test
  void aUserIsHeldLikeARoleOnlyWhereUsersAreRoles() {
    Wanted wanted =
        new Wanted(
            List.of(),
            List.of(new Wanted.Principal("rui", HERE), new Wanted.Principal("ines", HERE)),
            List.of(new Wanted.Member("ines", "rui", HERE)),
            List.of());
    assertThat(PaperProblems.of(wanted, PostgresqlRules.of(18))).isEmpty();
    assertThat(PaperProblems.of(wanted, MariadbRules.of(10, 11)))
        .singleElement()
        .extracting(Problem::toString)
        .isEqualTo("roles.yaml:4:9: rui is a user; on mariadb only roles can be held");
  }

  @Test
  void aServerWithoutGatesOrLaterGrantsGetsTheRestAndNotes() {
    TinyEstate hsqldb =
        new TinyEstate(HsqldbRules.rules())
            .roles("READER")
            .node(NodeKind.SCHEMA, "S")
            .node(NodeKind.TABLE, "S.T", "A");
    Plan plan =
        new Planner(hsqldb.build())
            .plan(
                wanted(
                    grant(
                        new Single(NodeKind.SCHEMA, "s"),
                        false,
                        new Action(Privilege.USAGE, List.of())),
                    grant(new Every(Set.of(NodeKind.TABLE), "s"), true, select())));
    assertThat(plan.steps()).hasSize(1);
    assertThat(plan.notes())
        .containsExactly(
            "hsqldb has no usage on schemas: sentences about it are left out",
            "hsqldb has no grants for what will be created later: settle again after creating something");
  }
}
