package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.Deny;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.WantedSight;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import fiador.history.FactDifference;
import fiador.repairs.Sever;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What was given and denied by a label counts, and no statement about a thing takes it. */
class ByLabelTest {
  private static final Place HERE = new Place("roles.yaml", 1, 1);
  private static final Clock CLOCK = Clock.systemUTC();
  private static final On TABLE = new On(NodeKind.TABLE, null, List.of("s", "t"));
  private static final long SELECT = Privilege.SELECT.bit();

  private static TinyEstate tiny() {
    return new TinyEstate(
            new HouseRulesBuilder("house/x")
                .on(NodeKind.SCHEMA, Privilege.SELECT)
                .on(NodeKind.TABLE, Privilege.SELECT)
                .onColumns(Privilege.SELECT)
                .owners(Ownership.NONE)
                .names(PostgresqlRules.of(18).names())
                .with(HouseFact.DENIALS, HouseFact.COLUMNS_APART, HouseFact.LABELS)
                .build())
        .users("ines")
        .node(NodeKind.SCHEMA, "s")
        .node(NodeKind.TABLE, "s.t", "a", "b");
  }

  private static boolean reads(Access access) {
    int user = access.principals().named("ines");
    return new Holdings(access, CLOCK, false)
        .of(user).stream()
            .filter(row -> row.privilege() == Privilege.SELECT && row.columns() == null)
            .anyMatch(row -> row.state().works());
  }

  private static Gap gap(Access access, boolean wanted) {
    Wanted.Grant grant =
        new Wanted.Grant(
            "ines",
            List.of(new Action(Privilege.SELECT, List.of())),
            new Single(null, "s.t"),
            true,
            false,
            false,
            HERE);
    Wanted charter =
        new Wanted(
            List.of(),
            List.of(new Wanted.Principal("ines", HERE)),
            List.of(),
            wanted ? List.of(grant) : List.of(),
            List.of(),
            List.of(),
            new Wanted.Governs(List.of("s"), List.of(), List.of("ines")),
            WantedSight.NONE);
    return Gap.between(access, charter, true, Set.of(), CLOCK);
  }

  @Test
  void aCharterLeavesItAloneAndSaysSo() {
    Access access = tiny().byLabel(true, "open", "ines", "select", "s.t").build();
    assertThat(reads(access)).isTrue();
    Gap none = gap(access, false);
    assertThat(none.plan().steps()).isEmpty();
    assertThat(none.plan().notes())
        .anySatisfy(note -> assertThat(note).contains("grants by label", "by open to ines"));
  }

  @Test
  void whatIsWantedByNameIsGivenAndTakenBesideIt() {
    Access access = tiny().byLabel(true, "open", "ines", "select", "s.t").build();
    Gap gap = gap(access, true);
    assertThat(gap.plan().steps()).singleElement().isInstanceOf(Grant.class);
    List<Step> steps = gap.plan().steps();
    assertThat(new Done(access).missing(steps)).isEqualTo(steps);
    Access given = gap.outcome().after();
    assertThat(new Done(given).missing(steps)).isEmpty();
    Revoke revoke = new Revoke(SELECT, TABLE, List.of(), "ines", false, null);
    Access taken = Outcome.of(given, List.of(revoke)).after();
    assertThat(new Done(taken).missing(List.of(revoke))).isEmpty();
    assertThat(taken.grants().size()).isEqualTo(given.grants().size());
    assertThat(reads(taken)).isTrue();
  }

  @Test
  void aDenialByLabelStaysWhenOneByNameIsLifted() {
    Access access =
        tiny()
            .grant("ines", "select", "s.t")
            .deny("ines", "select", "s.t")
            .byLabel(false, "secret", "ines", "select", "s.t", "b")
            .build();
    Deny lift = new Deny(SELECT, TABLE, List.of(), "ines", true);
    assertThat(new Done(access).missing(List.of(lift))).hasSize(1);
    Access after = Outcome.of(access, List.of(lift)).after();
    assertThat(new Done(after).missing(List.of(lift))).isEmpty();
    assertThat(after.denials().byNode().run(access.tree().size() - 1)).hasSize(1);
    Deny onColumn = new Deny(SELECT, TABLE, List.of("b"), "ines", true);
    assertThat(new Done(access).missing(List.of(onColumn))).isEmpty();
  }

  @Test
  void severDoesNotProposeToTakeItFromTheTable() {
    Access access = tiny().byLabel(true, "open", "ines", "select", "s.t").build();
    int table = access.tree().size() - 1;
    Sever.Result result =
        new Sever(access, CLOCK).of(access.principals().named("ines"), Privilege.SELECT, table, -1);
    assertThat(result.held()).isTrue();
    assertThat(result.ways())
        .singleElement()
        .satisfies(
            way -> assertThat(way.gap().plan().steps()).singleElement().isInstanceOf(Deny.class));
  }

  @Test
  void historySaysByWhichLabel() {
    Access before = tiny().build();
    Access after = tiny().byLabel(true, "open", "ines", "select", "s.t").build();
    assertThat(FactDifference.between(before, after))
        .singleElement()
        .satisfies(
            fact -> assertThat(fact.said().parts().toString()).contains("by the label open"));
    Access same = tiny().byLabel(true, "open", "ines", "select", "s.t").build();
    assertThat(FactDifference.between(after, same)).isEmpty();
    Access other = tiny().byLabel(true, "low", "ines", "select", "s.t").build();
    assertThat(FactDifference.between(after, other)).hasSize(2);
  }
}
