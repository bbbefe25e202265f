package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.LoginTerms;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/**
 * What was wanted for a time goes when that is over, with nothing governed, and nothing else does.
 */
class EndingTest {
  private static final Place HERE = new Place("roles.yaml", 4, 9);
  private static final Instant NOW = Instant.parse("2026-11-20T12:00:00Z");
  private static final Period OVER = new Period(null, NOW);
  private static final Period AHEAD = new Period(NOW.plusSeconds(1), null);
  private static final Period SOON = new Period(null, NOW.plusSeconds(3600));

  private TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .roles("reader", "maker", "extra")
          .owned(NodeKind.SCHEMA, "d.s", "maker")
          .owned(NodeKind.TABLE, "d.s.t", "maker", "a", "b")
          .owned(NodeKind.TABLE, "d.s.u", "maker", "a");
  private final List<Wanted.Member> members = new ArrayList<>();
  private final List<Wanted.Grant> grants = new ArrayList<>();
  private LoginTerms login = LoginTerms.PLAIN;

  private Wanted wanted() {
    return new Wanted(
        List.of(new Wanted.Principal("reader", HERE), new Wanted.Principal("extra", HERE)),
        List.of(
            new Wanted.Principal("ines", login, HERE), new Wanted.Principal("rui", login, HERE)),
        members,
        grants);
  }

  private void member(String member, String role, Period when) {
    members.add(new Wanted.Member(member, role, HERE).at(when));
  }

  private void select(String on, Period when, boolean option, String... columns) {
    Action action = new Action(Privilege.SELECT, List.of(columns));
    Single target = new Single(null, on);
    grants.add(
        new Wanted.Grant("reader", List.of(action), target, true, false, option, HERE).at(when));
  }

  private Plan ended(String... untouchable) {
    return Ending.plan(
        tiny.build(), wanted(), Set.of(untouchable), Clock.fixed(NOW, ZoneOffset.UTC));
  }

  private Plan settled() {
    Access access = tiny.build();
    return new Planner(access, false, Set.of(), Clock.fixed(NOW, ZoneOffset.UTC)).plan(wanted());
  }

  @Test
  void aRoleGoesWhenItsTimeIsOverAndOnlyThen() {
    tiny.member("ines", "reader").member("rui", "reader").member("rui", "extra");
    member("ines", "reader", OVER);
    member("rui", "reader", SOON);
    assertThat(ended().steps()).extracting(EndingTest::text).containsExactly("ines - reader");
    assertThat(settled().steps()).extracting(EndingTest::text).containsExactly("ines - reader");
    assertThat(ended().notes())
        .containsExactly("its time is over: reader of ines, until 2026-11-20 12:00");
    assertThat(settled().notes())
        .containsExactly(
            "its time is over: reader of ines, until 2026-11-20 12:00",
            "ends within 14 days: reader of rui on 2026-11-20 13:00");
  }

  @Test
  void whatHasNotBegunIsNeitherGivenNorTaken() {
    tiny.member("ines", "reader");
    member("ines", "reader", AHEAD);
    member("rui", "reader", AHEAD);
    assertThat(settled().steps()).isEmpty();
    assertThat(settled().notes())
        .containsExactly(
            "not begun yet: reader of ines from 2026-11-20 12:00:01, reader of rui from"
                + " 2026-11-20 12:00:01");
  }

  @Test
  void whatAnotherSentenceWantsStays() {
    tiny.member("ines", "reader").grant("reader", "select", "d.s.t");
    member("ines", "reader", OVER);
    member("ines", "reader", Period.ALWAYS);
    select("s.t", OVER, false);
    select("s.t", Period.ALWAYS, false);
    assertThat(ended().steps()).isEmpty();
    assertThat(settled().steps()).isEmpty();
  }

  @Test
  void ofAGrantOnlyWhatWasSaidGoes() {
    tiny.grant("reader", "select", "d.s.t").grant("reader", "insert", "d.s.t");
    tiny.grant("reader", "select", "d.s.u");
    select("s.t", OVER, false);
    assertThat(ended().steps())
        .containsExactly(
            new Revoke(Privilege.SELECT.bit(), on("t"), List.of(), "reader", false, null));
  }

  @Test
  void columnsThatStayAreGivenAgainAfterTheWholeWent() {
    tiny.grant("reader", "select", "d.s.t").grant("reader", "select", "d.s.t", "a", "b");
    select("s.t", OVER, false);
    select("s.t", Period.ALWAYS, false, "a");
    assertThat(ended().steps())
        .containsExactly(
            new Revoke(Privilege.SELECT.bit(), on("t"), List.of("b"), "reader", false, null),
            new Revoke(Privilege.SELECT.bit(), on("t"), List.of(), "reader", false, null),
            new Grant(Privilege.SELECT.bit(), on("t"), List.of("a"), "reader", false));
  }

  @Test
  void theRightToGrantOnGoesAlone() {
    long select = Privilege.SELECT.bit();
    tiny.grant("reader", "d.s.t", Terms.of(select, select));
    select("s.t", OVER, true);
    select("s.t", Period.ALWAYS, false);
    assertThat(ended().steps())
        .containsExactly(new TakeOption(select, on("t"), List.of(), "reader", null));
  }

  @Test
  void ofWhatComesLaterTheSentencesShareGoes() {
    tiny.later("maker", "d.s", "select", "reader").grant("reader", "select", "d.s.t");
    Every every = new Every(Set.of(NodeKind.TABLE), "s");
    Action select = new Action(Privilege.SELECT, List.of());
    grants.add(
        new Wanted.Grant("reader", List.of(select), every, true, true, false, HERE).at(OVER));
    assertThat(ended().steps()).hasOnlyElementsOfTypes(Revoke.class, RevokeLater.class).hasSize(2);
  }

  @Test
  void whatIsLackingIsNotGiven() {
    member("rui", "extra", Period.ALWAYS);
    select("s.u", Period.ALWAYS, false);
    assertThat(settled().steps()).hasSize(2);
    assertThat(ended().steps()).isEmpty();
  }

  @Test
  void whoSettlesIsLeftAlone() {
    tiny.member("ines", "reader");
    member("ines", "reader", OVER);
    assertThat(ended("ines").steps()).isEmpty();
  }

  @Test
  void whoSettlesIsNotLockedOut() {
    login = new LoginTerms(false, NOW, List.of());
    tiny =
        new TinyEstate(MariadbRules.of(10, 11)).users("ines@%", "rui@%").roles("reader", "extra");
    assertThat(ended("ines").steps()).containsExactly(new LetLogIn("rui@%", false));
    Plan settled =
        new Planner(tiny.build(), false, Set.of("ines"), Clock.fixed(NOW, ZoneOffset.UTC))
            .plan(wanted());
    assertThat(settled.steps()).containsExactly(new LetLogIn("rui@%", false));
  }

  @Test
  void whoIsStillCalledByTheFormerNameLosesItToo() {
    tiny.member("ines", "reader");
    members.add(new Wanted.Member("ines_d", "reader", HERE).at(OVER));
    Wanted renamed =
        new Wanted(
            List.of(new Wanted.Principal("reader", HERE)),
            List.of(new Wanted.Principal("ines_d", LoginTerms.PLAIN, null, "ines", HERE)),
            members,
            grants);
    assertThat(
            Ending.plan(tiny.build(), renamed, Set.of(), Clock.fixed(NOW, ZoneOffset.UTC)).steps())
        .extracting(EndingTest::text)
        .containsExactly("ines - reader");
  }

  @Test
  void aThingThatIsGoneIsNoProblemOfWhatHasEnded() {
    select("s.dropped", OVER, false);
    assertThat(ended().problems()).isEmpty();
    assertThat(settled().problems()).isEmpty();
    select("s.dropped", Period.ALWAYS, false);
    assertThat(ended().problems()).hasSize(1);
  }

  @Test
  void anAccountIsLockedWhereTheServerDoesNotEndIt() {
    login = new LoginTerms(false, NOW, List.of());
    assertThat(ended().steps()).as("PostgreSQL does so itself").isEmpty();
    tiny =
        new TinyEstate(MariadbRules.of(10, 11)).users("ines@%", "rui@%").roles("reader", "extra");
    assertThat(ended().steps())
        .containsExactly(new LetLogIn("ines@%", false), new LetLogIn("rui@%", false));
    assertThat(settled().steps()).containsExactlyInAnyOrderElementsOf(ended().steps());
    tiny = new TinyEstate(HsqldbRules.rules()).users("INES", "RUI").roles("READER", "EXTRA");
    assertThat(ended().steps()).isEmpty();
  }

  @Test
  void onMariadbTheRoleThatIsOnAtLoginIsTheNextOne() {
    tiny =
        new TinyEstate(MariadbRules.of(10, 11))
            .users("ines@%", "rui@%")
            .roles("reader", "extra")
            .member("ines@%", "reader")
            .member("ines@%", "extra", Membership.of(false, false, true));
    member("ines", "reader", OVER);
    member("ines", "extra", Period.ALWAYS);
    assertThat(ended().steps())
        .extracting(step -> step instanceof DefaultRole on ? "on: " + on.role() : text(step))
        .containsExactlyInAnyOrder("ines@% - reader", "on: extra");
  }

  @Test
  void whatMayNotBeForATimeIsNoProblemAfterIt() {
    tiny.member("ines", "reader").grant("reader", "select", "d.s.t");
    tiny.grant("reader", "usage", "d.s").grant("PUBLIC", "connect", "d");
    assertThat(refusing(AHEAD)).isEmpty();
    assertThat(refusing(OVER)).isEmpty();
    assertThat(refusing(SOON)).singleElement().asString().contains("ines can select");
  }

  private List<Problem> refusing(Period when) {
    Action select = new Action(Privilege.SELECT, List.of());
    Single table = new Single(null, "s.t");
    Wanted.Grant refused =
        new Wanted.Grant("reader", List.of(select), table, true, false, false, HERE).at(when);
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("reader", HERE)),
            List.of(),
            List.of(),
            List.of(),
            List.of(refused),
            List.of(),
            Wanted.Governs.NOTHING,
            WantedSight.NONE);
    Clock clock = Clock.fixed(NOW, ZoneOffset.UTC);
    return Gap.between(tiny.build(), wanted, false, Set.of(), clock).plan().problems();
  }

  @Test
  void peopleLoseJustThat() {
    tiny.member("ines", "reader")
        .grant("reader", "select", "d.s.t")
        .grant("reader", "usage", "d.s");
    member("ines", "reader", OVER);
    Gap gap = Gap.ended(tiny.build(), wanted(), Set.of(), Clock.fixed(NOW, ZoneOffset.UTC));
    assertThat(gap.effects())
        .extracting(
            change ->
                gap.before().principals().name(change.user())
                    + " loses "
                    + change.privilege().text())
        .containsExactlyInAnyOrder("ines loses usage", "ines loses select");
  }

  private static On on(String name) {
    return new On(NodeKind.TABLE, "d", List.of("s", name));
  }

  private static String text(Step step) {
    return step instanceof TakeRole take ? take.member() + " - " + take.role() : step.toString();
  }
}
