package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.LetIn;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Governs;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What was given on by somebody who is to lose the right to: it stays, or goes first. */
class RestingTest {
  private static final Place HERE = new Place("roles.yaml", 4, 9);
  private static final Membership ADMIN = Membership.of(true, true, true);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .roles("keeper", "deputy", "reader")
          .owned(NodeKind.SCHEMA, "d.s", "keeper")
          .owned(NodeKind.TABLE, "d.s.t", "keeper", "a", "b");

  private static Wanted.Member member(String member, String role, Membership how) {
    return new Wanted.Member(member, role, how, HERE);
  }

  private static Wanted wanted(List<Wanted.Grant> grants, Wanted.Member... members) {
    List<Wanted.Principal> roles = new ArrayList<>();
    for (String role : List.of("keeper", "deputy", "reader")) {
      roles.add(new Wanted.Principal(role, HERE));
    }
    return new Wanted(
        roles,
        List.of(new Wanted.Principal("ines", HERE), new Wanted.Principal("rui", HERE)),
        List.of(members),
        grants,
        List.of(),
        List.of(),
        new Governs(List.of("*"), List.of("*"), List.of("*")),
        WantedSight.NONE);
  }

  private static Wanted.Grant select(String grantee) {
    return new Wanted.Grant(
        grantee,
        List.of(new Wanted.Action(Privilege.SELECT, List.of())),
        new Wanted.Single(null, "s.t"),
        true,
        false,
        false,
        HERE);
  }

  private Access chain() {
    return tiny.member("deputy", "reader", ADMIN)
        .memberBy("deputy", "ines", "reader", ADMIN)
        .memberBy("ines", "rui", "reader", Membership.PLAIN)
        .build();
  }

  @Test
  void whatStaysIsTakenOverBeforeWhatItRestsOnGoes() {
    Plan plan =
        new Planner(chain())
            .plan(
                wanted(
                    List.of(),
                    member("ines", "reader", ADMIN),
                    member("rui", "reader", Membership.PLAIN)));
    assertThat(plan.steps())
        .containsExactly(
            new TakeOver(
                new GiveRole("reader", "ines", ADMIN, ADMIN, true),
                new TakeRole("reader", "ines", ADMIN, "deputy", true)),
            new TakeRole("reader", "deputy", ADMIN, null, true));
  }

  @Test
  void whatGoesWithItGoesInTheOrderInWhichItRests() {
    Plan plan = new Planner(chain()).plan(wanted(List.of()));
    assertThat(plan.steps())
        .extracting(step -> ((TakeRole) step).member())
        .containsExactly("rui", "ines", "deputy");
  }

  @Test
  void whatOthersGaveTooMuchOfIsTakenAndGivenRightly() {
    Plan plan =
        new Planner(chain())
            .plan(
                wanted(
                    List.of(),
                    member("deputy", "reader", ADMIN),
                    member("ines", "reader", Membership.PLAIN),
                    member("rui", "reader", Membership.PLAIN)));
    Access after = Outcome.of(chain(), plan.steps()).after();
    assertThat(plan.steps()).hasSize(3);
    assertThat(plan.steps().get(0)).isInstanceOf(TakeOver.class);
    assertThat(
            new Planner(after)
                .plan(
                    wanted(
                        List.of(),
                        member("deputy", "reader", ADMIN),
                        member("ines", "reader", Membership.PLAIN),
                        member("rui", "reader", Membership.PLAIN)))
                .steps())
        .isEmpty();
  }

  private Access passedOn() {
    return tiny.grant("deputy", "select*", "d.s.t")
        .grantBy("deputy", "reader", "select", "d.s.t")
        .member("ines", "reader")
        .build();
  }

  @Test
  void aGrantThatStaysIsTakenOverToo() {
    Access before = passedOn();
    Wanted wanted = wanted(List.of(select("reader")), member("ines", "reader", Membership.PLAIN));
    Plan plan = new Planner(before).plan(wanted);
    assertThat(plan.steps()).hasSize(2);
    // deputy may not enter the schema any more
    assertThat(plan.steps().get(0)).isInstanceOf(LetIn.class);
    assertThat(plan.steps().get(0).takesOver()).isTrue();
    Outcome.Result outcome = Outcome.of(before, plan.steps());
    int ines = before.principals().named("ines");
    assertThat(new Holdings(outcome.after(), Clock.systemUTC(), false).of(ines))
        .isEqualTo(new Holdings(before, Clock.systemUTC(), false).of(ines));
    assertThat(new Planner(outcome.after()).plan(wanted).steps()).isEmpty();
  }

  @Test
  void takingOverIsNotTakenBack() {
    Access before = passedOn();
    Wanted wanted = wanted(List.of(select("reader")), member("ines", "reader", Membership.PLAIN));
    List<Step> steps = new Planner(before).plan(wanted).steps();
    Access after = Outcome.of(before, steps).after();
    assertThat(new Done(after).missing(steps)).isEmpty();
    assertThat(new Done(after).undo(steps))
        .singleElement()
        .isInstanceOfSatisfying(
            Grant.class, grant -> assertThat(grant.grantee()).isEqualTo("deputy"));
  }
}
