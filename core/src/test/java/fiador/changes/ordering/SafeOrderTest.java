package fiador.changes.ordering;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class SafeOrderTest {
  private static final Clock CLOCK = Clock.systemUTC();
  private static final Membership DEFAULT = Membership.of(false, true, true);
  private static final Membership NESTED = Membership.of(false, true, false);

  private static List<Step> ordered(Access before, List<Step> steps) {
    List<Change> effects = PeopleEffects.of(before, Outcome.of(before, steps), CLOCK);
    return SafeOrder.of(before, steps, effects, CLOCK).steps();
  }

  /** After how many of the steps somebody holds what they hold neither before nor after. */
  private static List<Integer> widened(Access before, List<Step> steps) {
    List<Change> lasting = PeopleEffects.gains(before, Outcome.of(before, steps), CLOCK);
    List<Integer> found = new ArrayList<>();
    for (int done = 1; done < steps.size(); done++) {
      Outcome.Result so = Outcome.of(before, steps.subList(0, done));
      boolean more =
          PeopleEffects.gains(before, so, CLOCK).stream()
              .anyMatch(
                  gain ->
                      lasting.stream()
                          .noneMatch(
                              kept ->
                                  kept.user() == gain.user()
                                      && kept.node() == gain.node()
                                      && kept.privilege() == gain.privilege()));
      if (more) {
        found.add(done);
      }
    }
    return found;
  }

  /**
   * On MariaDB the nested role's narrow grant hides the wide one of the role that holds it: taken
   * first, it would open what neither before nor after is open.
   */
  @Test
  void whereTakingGivesTheStepThatGivesWaits() {
    Access before =
        new TinyEstate(MariadbRules.of(10, 11))
            .users("ines@%")
            .roles("duty", "narrow")
            .node(NodeKind.SCHEMA, "app")
            .node(NodeKind.TABLE, "app.t", "a")
            .member("ines@%", "duty", DEFAULT)
            .member("duty", "narrow", NESTED)
            .pattern("duty", "ap%", "delete")
            .pattern("narrow", "app", "select")
            .build();
    Step takeNarrow = new TakeRole("narrow", "duty", NESTED, null, false);
    Step takeDuty = new TakeRole("duty", "ines@%", DEFAULT, null, false);
    List<Step> steps = List.of(takeNarrow, takeDuty);
    assertThat(widened(before, steps)).as("as it came").containsExactly(1);
    List<Step> safe = ordered(before, steps);
    assertThat(safe).containsExactly(takeDuty, takeNarrow);
    assertThat(widened(before, safe)).isEmpty();
  }

  /**
   * Each of two roles hides something wide of the other: whichever goes first opens the other's.
   */
  @Test
  void whereNoOrderHelpsItIsTold() {
    Access before =
        new TinyEstate(MariadbRules.of(10, 11))
            .users("ines@%")
            .roles("duty", "one", "two")
            .node(NodeKind.SCHEMA, "aa")
            .node(NodeKind.TABLE, "aa.t", "a")
            .node(NodeKind.SCHEMA, "bb")
            .node(NodeKind.TABLE, "bb.t", "a")
            .member("ines@%", "duty", DEFAULT)
            .member("duty", "one", NESTED)
            .member("duty", "two", NESTED)
            .pattern("one", "aa", "select")
            .pattern("two", "a%", "delete")
            .pattern("two", "bb", "select")
            .pattern("one", "b%", "delete")
            .build();
    List<Step> steps =
        List.of(
            new TakeRole("one", "duty", NESTED, null, false),
            new TakeRole("two", "duty", NESTED, null, false));
    List<Change> effects = PeopleEffects.of(before, Outcome.of(before, steps), CLOCK);
    SafeOrder.Result order = SafeOrder.of(before, steps, effects, CLOCK);
    assertThat(order.onTheWay())
        .isNotEmpty()
        .allMatch(change -> change.privilege() == Privilege.DELETE);
    assertThat(widened(before, order.steps())).containsExactly(1);
  }

  /** Elsewhere giving comes first, unless the moment between brings what does not last. */
  @Test
  void givingComesFirstWhereNothingIsOpenMeanwhile() {
    Access before = hsqldb().member("INES", "OLD").grant("OLD", "select", "S.T").build();
    Step give = new GiveRole("NEW", "INES");
    Step take = new TakeRole("OLD", "INES", Membership.PLAIN, null, false);
    Step grant =
        new Grant(
            Privilege.SELECT.bit(),
            new On(NodeKind.TABLE, null, List.of("S", "T")),
            List.of(),
            "NEW",
            false);
    List<Step> steps = List.of(give, grant, take);
    assertThat(ordered(before, steps)).isEqualTo(steps);
  }

  @Test
  void takingComesFirstWhereBothTogetherWouldOpenMore() {
    // whoever holds NEW gets what OLD is given, while they still hold OLD
    Access before = hsqldb().member("INES", "OLD").build();
    Step grant =
        new Grant(
            Privilege.DELETE.bit(),
            new On(NodeKind.TABLE, null, List.of("S", "T")),
            List.of(),
            "OLD",
            false);
    Step take = new TakeRole("OLD", "INES", Membership.PLAIN, null, false);
    List<Step> steps = List.of(grant, take);
    assertThat(widened(before, steps)).containsExactly(1);
    List<Step> safe = ordered(before, steps);
    assertThat(safe).containsExactly(take, grant);
    assertThat(widened(before, safe)).isEmpty();
  }

  private static TinyEstate hsqldb() {
    return new TinyEstate(HsqldbRules.rules())
        .users("INES")
        .roles("OLD", "NEW")
        .node(NodeKind.SCHEMA, "S")
        .node(NodeKind.TABLE, "S.T", "A");
  }
}
