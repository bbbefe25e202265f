package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.steps.AddOption;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Where a role cannot grant on what it owns by owning alone, a grant with the option matters. */
class OwningRolesTest {
  private static final Place HERE = new Place("roles.yaml", 1, 1);

  private static TinyEstate owned(HouseFact... facts) {
    return new TinyEstate(
            new HouseRulesBuilder("house/x")
                .on(NodeKind.SCHEMA, Privilege.USAGE)
                .on(NodeKind.TABLE, Privilege.SELECT)
                .onColumns(Privilege.SELECT)
                .owners(Ownership.OBJECT)
                .names(PostgresqlRules.of(18).names())
                .with(facts)
                .build())
        .roles("keepers")
        .node(NodeKind.SCHEMA, "s")
        .owned(NodeKind.TABLE, "s.t", "keepers", "a", "b");
  }

  /** What is to be done where the owning role is to have that with the grant option. */
  private static List<Step> steps(TinyEstate tiny, String... columns) {
    Action select = new Action(Privilege.SELECT, List.of(columns));
    Single table = new Single(null, "s.t");
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("keepers", HERE)),
            List.of(),
            List.of(),
            List.of(new Wanted.Grant("keepers", List.of(select), table, true, false, true, HERE)),
            List.of(),
            List.of(),
            Wanted.Governs.NOTHING,
            WantedSight.NONE);
    return Gap.between(tiny.build(), wanted, true, Set.of(), Clock.systemUTC()).plan().steps();
  }

  @Test
  void anOwningRoleNeedsTheOptionWhereOwningDoesNotGiveIt() {
    assertThat(steps(owned())).isEmpty();
    assertThat(steps(owned(), "a")).isEmpty();
    HouseFact nothing = HouseFact.OWNING_ROLES_GRANT_NOTHING;
    assertThat(steps(owned(nothing)))
        .singleElement()
        .isInstanceOfSatisfying(Grant.class, step -> assertThat(step.grantOption()).isTrue());
    assertThat(steps(owned(nothing), "a")).singleElement().isInstanceOf(Grant.class);
    assertThat(steps(owned(nothing).grant("keepers", "select", "s.t")))
        .singleElement()
        .isInstanceOf(AddOption.class);
    assertThat(steps(owned(nothing).grant("keepers", "select", "s.t", "a"), "a"))
        .singleElement()
        .isInstanceOf(AddOption.class);
  }

  @Test
  void owningASchemaIsNoRightOnTheTablesInItThatAGrantThereWouldBe() {
    TinyEstate tiny =
        new TinyEstate(
                new HouseRulesBuilder("house/x")
                    .on(NodeKind.SCHEMA, Privilege.USAGE, Privilege.SELECT)
                    .on(NodeKind.TABLE, Privilege.SELECT)
                    .owners(Ownership.OBJECT)
                    .names(PostgresqlRules.of(18).names())
                    .with(HouseFact.GRANT_OPTIONS, HouseFact.SCHEMA_GRANTS_REACH_DOWN)
                    .build())
            .roles("keepers", "others")
            .owned(NodeKind.SCHEMA, "s", "keepers")
            .owned(NodeKind.TABLE, "s.t", "others");
    Action use = new Action(Privilege.USAGE, List.of());
    Action select = new Action(Privilege.SELECT, List.of());
    Single schema = new Single(NodeKind.SCHEMA, "s");
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("keepers", HERE)),
            List.of(),
            List.of(),
            List.of(
                new Wanted.Grant(
                    "keepers", List.of(use, select), schema, true, false, false, HERE)));
    assertThat(Gap.between(tiny.build(), wanted, true, Set.of(), Clock.systemUTC()).plan().steps())
        .containsExactly(
            new Grant(
                Privilege.SELECT.bit(),
                new On(NodeKind.SCHEMA, null, List.of("s"), false),
                List.of(),
                "keepers",
                false));
  }
}
