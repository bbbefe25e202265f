package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.ordering.SafeOrder;
import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.Deny;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.WantedSight;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import fiador.repairs.Sever;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Denials that are wanted, given and lifted; and the order of what brings some. */
class DenyingTest {
  private static final Place HERE = new Place("roles.yaml", 4, 9);
  private static final Clock CLOCK = Clock.systemUTC();
  private static final Membership ON = Membership.of(false, true, false);
  private static final On TABLE = new On(NodeKind.TABLE, null, List.of("s", "t"));

  private static HouseRules rules(HouseFact... facts) {
    return new HouseRulesBuilder("denying")
        .on(NodeKind.SCHEMA, Privilege.SELECT)
        .on(NodeKind.TABLE, Privilege.SELECT, Privilege.INSERT)
        .onColumns(Privilege.SELECT)
        .roles(Activation.ALL_ON)
        .owners(Ownership.NONE)
        .names(PostgresqlRules.of(18).names())
        .with(facts)
        .build();
  }

  private final TinyEstate tiny =
      new TinyEstate(rules(HouseFact.DENIALS, HouseFact.COLUMNS_APART))
          .users("ines", "rui")
          .roles("readers", "shut")
          .node(NodeKind.SCHEMA, "s")
          .node(NodeKind.TABLE, "s.t", "a", "b")
          .member("ines", "readers", ON)
          .grant("readers", "select", "s.t");

  private static Wanted refusing(String... columns) {
    Action action = new Action(Privilege.SELECT, List.of(columns));
    Single table = new Single(null, "s.t");
    Wanted.Grant grant = new Wanted.Grant("shut", List.of(action), table, true, false, false, HERE);
    return new Wanted(
        List.of(new Wanted.Principal("shut", HERE)),
        List.of(),
        List.of(),
        List.of(),
        List.of(grant),
        List.of(),
        Wanted.Governs.NOTHING,
        WantedSight.NONE);
  }

  private static Deny deny(boolean lifted, String... columns) {
    return new Deny(Privilege.SELECT.bit(), TABLE, List.of(columns), "shut", lifted);
  }

  @Test
  void whatMayNotBeDoneIsDeniedOnce() {
    assertThat(new Planner(tiny.build()).plan(refusing()).steps()).containsExactly(deny(false));
    assertThat(new Planner(tiny.build()).plan(refusing("b")).steps())
        .containsExactly(deny(false, "b"));
    tiny.deny("shut", "select", "s.t");
    assertThat(new Planner(tiny.build()).plan(refusing()).steps()).isEmpty();
    assertThat(new Planner(tiny.build()).plan(refusing("b")).steps()).isEmpty();
    assertThat(new Planner(tiny.build()).plan(refusing()).notes())
        .anyMatch(note -> note.contains("the server has denials"));
  }

  @Test
  void whatAServerCannotDenyIsNoStep() {
    TinyEstate other =
        new TinyEstate(rules())
            .roles("shut")
            .node(NodeKind.SCHEMA, "s")
            .node(NodeKind.TABLE, "s.t", "a", "b");
    assertThat(new Planner(other.build()).plan(refusing()).steps()).isEmpty();
  }

  private static List<String> works(Access access, String user) {
    int id = access.principals().named(user);
    return new Holdings(access, CLOCK, true)
        .of(id).stream()
            .filter(row -> row.state() == State.LIVE)
            .map(Holding::privilege)
            .map(Privilege::text)
            .toList();
  }

  @Test
  void aDenialTakesAndLiftingItGivesBack() {
    tiny.member("ines", "shut", ON);
    Access before = tiny.build();
    Access denied = Outcome.of(before, List.of(deny(false))).after();
    assertThat(works(before, "ines")).containsExactly("select");
    assertThat(works(denied, "ines")).isEmpty();
    assertThat(new Done(denied).missing(List.of(deny(false)))).isEmpty();
    assertThat(new Done(before).missing(List.of(deny(false)))).hasSize(1);
    assertThat(new Done(denied).missing(List.of(deny(true)))).hasSize(1);
    Access lifted = Outcome.of(denied, List.of(deny(true))).after();
    assertThat(works(lifted, "ines")).containsExactly("select");
    assertThat(new Done(lifted).missing(List.of(deny(true)))).isEmpty();
    assertThat(deny(false).inverse()).isEqualTo(deny(true));
  }

  @Test
  void aDenialOnColumnsCanBeLiftedFromSomeOfThem() {
    tiny.member("ines", "shut", ON);
    Access both = Outcome.of(tiny.build(), List.of(deny(false, "a", "b"))).after();
    assertThat(works(both, "ines")).isEmpty();
    Access one = Outcome.of(both, List.of(deny(true, "a"))).after();
    assertThat(
            new Holdings(one, CLOCK, true)
                .of(one.principals().named("ines")).stream()
                    .filter(row -> row.state() == State.LIVE)
                    .map(row -> row.columns().toString()))
        .containsExactly("{0}");
    assertThat(new Done(one).missing(List.of(deny(false, "b"), deny(true, "a")))).isEmpty();
  }

  @Test
  void whoIsDroppedTakesTheirDenialsAlong() {
    tiny.deny("shut", "select", "s.t");
    Access after =
        Outcome.of(tiny.build(), List.of(new fiador.changes.steps.DropRole("shut"))).after();
    assertThat(after.denials().byNode().run(tiny.at("s.t"))).isEmpty();
  }

  /** Nobody but ines loses by a denial, and rui would by anything else. */
  @Test
  void severingMayDeny() {
    tiny.member("rui", "readers", ON);
    Access access = tiny.build();
    int ines = access.principals().named("ines");
    Sever.Result result = new Sever(access, CLOCK).of(ines, Privilege.SELECT, tiny.at("s.t"), -1);
    assertThat(result.ways().get(0).denies()).isFalse();
    assertThat(result.ways()).anyMatch(Sever.Way::denies);
    tiny.grant("readers", "insert", "s.t");
    Access more = tiny.build();
    Sever.Way best =
        new Sever(more, CLOCK).of(ines, Privilege.SELECT, tiny.at("s.t"), -1).ways().get(0);
    assertThat(best.denies()).isTrue();
    assertThat(best.others()).isZero();
    assertThat(works(best.gap().outcome().after(), "ines")).containsExactly("insert");
    assertThat(works(best.gap().outcome().after(), "rui")).containsExactly("select", "insert");
  }

  /** One role opens what the other denies: at no moment is the one there without the other. */
  @Test
  void whatBringsDenialsComesFirstAndGoesLast() {
    tiny.deny("shut", "select", "s.t").deny("readers", "insert", "s.t");
    Access access = tiny.build();
    Step opens = new GiveRole("readers", "rui", ON, null, false);
    Step shuts = new GiveRole("shut", "rui", ON, null, false);
    List<Step> given = Gap.of(access, List.of(opens, shuts), CLOCK).plan().steps();
    assertThat(given).containsExactly(shuts, opens);
    neverOpen(access, given);
    Access both = Outcome.of(access, given).after();
    List<Step> taken =
        Gap.of(
                both,
                List.of(
                    new TakeRole("shut", "rui", ON, null, false),
                    new TakeRole("readers", "rui", ON, null, false)),
                CLOCK)
            .plan()
            .steps();
    assertThat(taken)
        .containsExactly(
            new TakeRole("readers", "rui", ON, null, false),
            new TakeRole("shut", "rui", ON, null, false));
    neverOpen(both, taken);
  }

  private void eachGivesWhatTheOtherDenies() {
    tiny.deny("shut", "select", "s.t").deny("readers", "insert", "s.t");
    tiny.grant("readers", "select", "s.t").grant("shut", "insert", "s.t");
  }

  private static List<Step> ruiLosesBoth() {
    return List.of(
        new TakeRole("shut", "rui", ON, null, false),
        new TakeRole("readers", "rui", ON, null, false));
  }

  /** Each of two roles gives what the other denies: whichever goes first would open something. */
  @Test
  void whereNoOrderIsSafeWhatWouldOpenIsDeniedMeanwhile() {
    eachGivesWhatTheOtherDenies();
    tiny.member("rui", "readers", ON).member("rui", "shut", ON);
    Access access = tiny.build();
    Gap gap = Gap.of(access, ruiLosesBoth(), CLOCK);
    List<Step> taken = gap.plan().steps();
    assertThat(taken).hasSize(4);
    Deny shield = (Deny) taken.get(0);
    assertThat(shield.brief()).isTrue();
    assertThat(shield.who()).isEqualTo("rui");
    assertThat(taken.get(3)).isEqualTo(shield.inverse());
    neverOpen(access, taken);
    assertThat(gap.outcome().after().denials().size()).isEqualTo(access.denials().size());
    assertThat(new Done(gap.outcome().after()).missing(List.of(shield.inverse()))).isEmpty();
    // what is taken back step by step opens nothing on its way either
    List<Step> back = new ArrayList<>(taken.stream().map(Step::inverse).toList());
    Collections.reverse(back);
    assertThat(back.get(0)).isEqualTo(shield);
  }

  /** What ines loses denied her what she gets through everybody, until that denies it too. */
  @Test
  void whatIsGivenAfterSomethingWasTakenIsOrderedForThat() {
    tiny.roles("writers").grant("writers", "insert", "s.t").deny("shut", "select", "s.t");
    tiny.users("eva").member("eva", "shut", ON);
    Access access = tiny.build();
    Step opens = new GiveRole("readers", "eva", ON, null, false);
    Step shuts = new GiveRole("shut", "readers", ON, null, false);
    // rui would hold insert for a moment, if all were given before anything is taken
    Step peak = new GiveRole("writers", "rui", ON, null, false);
    List<Step> steps =
        List.of(
            opens,
            shuts,
            peak,
            new Revoke(Privilege.INSERT.bit(), TABLE, List.of(), "writers", false, null),
            new TakeRole("shut", "eva", ON, null, false));
    List<Change> effects = PeopleEffects.of(access, Outcome.of(access, steps), CLOCK);
    assertThat(effects).filteredOn(Change::isGain).isEmpty();
    List<Step> safe = SafeOrder.of(access, steps, effects, CLOCK).steps();
    assertThat(safe).containsExactlyInAnyOrderElementsOf(steps).endsWith(peak);
    assertThat(safe.indexOf(shuts)).isLessThan(safe.indexOf(opens));
    for (int done = 1; done <= safe.size(); done++) {
      Outcome.Result now = Outcome.of(access, safe.subList(0, done));
      assertThat(PeopleEffects.gains(access, now, CLOCK)).as("after %d", done).isEmpty();
    }
  }

  /** Each of two roles gives what the other denies: whichever comes first would open something. */
  @Test
  void whatIsGivenIsDeniedMeanwhileTooWhereNoOrderIsSafe() {
    eachGivesWhatTheOtherDenies();
    Access access = tiny.build();
    List<Step> steps =
        List.of(
            new GiveRole("shut", "rui", ON, null, false),
            new GiveRole("readers", "rui", ON, null, false));
    List<Step> given = Gap.of(access, steps, CLOCK).plan().steps();
    assertThat(given).hasSize(4);
    assertThat(given.get(0))
        .isInstanceOfSatisfying(Deny.class, deny -> assertThat(deny.brief()).isTrue());
    neverOpen(access, given);
  }

  @Test
  void whatWasDeniedForAMomentAndStillIsCanBeLifted() {
    Deny brief = new Deny(Privilege.SELECT.bit(), TABLE, List.of(), "rui", false, true);
    List<Step> run = List.of(brief, new TakeRole("shut", "rui", ON, null, false), brief.inverse());
    Access before = tiny.build();
    assertThat(new Done(before).lifts(run, List.of())).isEmpty();
    Access stopped = Outcome.of(before, run.subList(0, 1)).after();
    assertThat(new Done(stopped).lifts(run, List.of())).containsExactly(brief.inverse());
    List<Step> planned = List.of(brief.inverse().toStay());
    assertThat(new Done(stopped).lifts(run, planned)).isEmpty();
    // one that is there to stay is no part of it
    List<Step> other = List.of(brief.toStay(), run.get(1));
    assertThat(new Done(stopped).lifts(other, List.of())).isEmpty();
  }

  /** Wherever a run stops, going on and going back end where they should, and open nothing. */
  @Test
  void aRunWithMomentsCanBeResumedAndUndoneFromAnywhere() {
    eachGivesWhatTheOtherDenies();
    tiny.member("rui", "readers", ON).member("rui", "shut", ON);
    Access before = tiny.build();
    List<Step> run = Gap.of(before, ruiLosesBoth(), CLOCK).plan().steps();
    assertThat(run).filteredOn(Deny.class::isInstance).hasSize(2);
    Access after = Outcome.of(before, run).after();
    for (int carriedOut = 0; carriedOut <= run.size(); carriedOut++) {
      Access stopped = Outcome.of(before, run.subList(0, carriedOut)).after();
      List<Step> rest = new Done(stopped).missing(run);
      Access resumed = Outcome.of(stopped, rest).after();
      assertThat(new Done(resumed).missing(run)).as("stopped after %d", carriedOut).isEmpty();
      assertThat(resumed.denials().byNode().run(tiny.at("s.t")))
          .hasSameSizeAs(after.denials().byNode().run(tiny.at("s.t")));
      neverOpen(stopped, rest);
      List<Step> back = new Done(stopped).undo(run);
      Access undone = Outcome.of(stopped, back).after();
      assertThat(new Done(undone).undo(run)).as("stopped after %d", carriedOut).isEmpty();
      assertThat(undone.denials().byNode().run(tiny.at("s.t")))
          .hasSameSizeAs(before.denials().byNode().run(tiny.at("s.t")));
      assertThat(works(undone, "rui")).isEqualTo(works(before, "rui"));
    }
  }

  @Test
  void whatIsTooMuchToLookAtIsSaid() {
    eachGivesWhatTheOtherDenies();
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i <= 30; i++) {
      tiny.users("u" + i);
      steps.add(new GiveRole("shut", "u" + i, ON, null, false));
      steps.add(new GiveRole("readers", "u" + i, ON, null, false));
    }
    Access access = tiny.build();
    Gap few = Gap.of(access, steps.subList(0, 60), CLOCK);
    assertThat(few.plan().notes()).isEmpty();
    assertThat(few.plan().steps()).hasSizeGreaterThan(60);
    Gap many = Gap.of(access, steps, CLOCK);
    assertThat(many.plan().steps()).containsExactlyInAnyOrderElementsOf(steps);
    assertThat(many.plan().notes())
        .singleElement()
        .asString()
        .startsWith("62 statements give roles, too many to look at what each opens");
  }

  private static void neverOpen(Access from, List<Step> steps) {
    for (int done = 1; done <= steps.size(); done++) {
      Gap gap = Gap.of(from, steps.subList(0, done), CLOCK);
      assertThat(gap.effects()).filteredOn(Change::isGain).isEmpty();
    }
  }
}
