package fiador.changes.ordering;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.SightEffects.Eyes;
import fiador.changes.outcome.SightEffects.Look;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Half-way through a change nobody sees rows or values that they see neither before nor after. */
final class SightOrderTest {
  private static final Clock CLOCK = Clock.systemUTC();
  private static final Membership ON = Membership.of(false, true, false);
  private static final String NORTH = "any\tp\ttrue\tholds(\"LEAD\")\tdistrict = 'north'\n";
  private static final String OWN = "any\tp\ttrue\tholds(\"LEAD\")\tdistrict in user.districts\n";
  private static final String AREAS = "any\tp\ttrue\tholds(\"DESK\")\tdistrict in user.areas\n";
  private static final String STARS = "mask\tm\tholds(\"DESK\")\tphone\tstars\n";
  private static final String BLANK = "mask\tm\ttrue\tphone\tblank\n";

  private static TinyEstate tiny() {
    return new TinyEstate(HsqldbRules.rules())
        .users("INES", "RUI")
        .roles("LEAD", "DESK")
        .node(NodeKind.SCHEMA, "S")
        .table("S.T", null, "district:text", "phone:text")
        .node(NodeKind.VIEW, "S.T_SAFE", "district", "phone");
  }

  private static Access with(TinyEstate tiny, String policies) {
    return tiny.kept("S.T_SAFE", "S.T", true, policies.split("\n"))
        .grant("LEAD", "select", "S.T_SAFE")
        .grant("DESK", "select", "S.T_SAFE")
        .grant("INES", "select", "S.T_SAFE")
        .build();
  }

  private static SafeView view(Access access, String policies) {
    int table = access.tree().child(access.tree().child(0, "S", n -> true), "T", n -> true);
    SafeView kept = SafeView.kept(access, table);
    return new SafeView(
        kept.view(), kept.table(), kept.columns(), policies, kept.underName(), null);
  }

  private static Map<Integer, Look> looks(Access access) {
    int table = access.tree().child(access.tree().child(0, "S", n -> true), "T", n -> true);
    return new Eyes(access, CLOCK).of(table);
  }

  /** Whether all that anybody sees after each step is what they see at an end, or nothing. */
  private static boolean keeps(Access before, List<Step> steps) {
    Map<Integer, Look> was = looks(before);
    Map<Integer, Look> is = looks(Outcome.of(before, steps).after());
    for (int done = 0; done <= steps.size(); done++) {
      Map<Integer, Look> now = looks(Outcome.of(before, steps.subList(0, done)).after());
      for (Map.Entry<Integer, Look> look : now.entrySet()) {
        int user = look.getKey();
        if (!look.getValue().isNothing()
            && !look.getValue().equals(was.get(user))
            && !look.getValue().equals(is.get(user))) {
          return false;
        }
      }
    }
    return true;
  }

  private static Step set(String user, String attribute, List<String> before, String... after) {
    return new SetAttribute(null, user, attribute, before, List.of(after));
  }

  @Test
  void aSingleFactNeedsNoClosing() {
    Access before = with(tiny().attribute("INES", "districts", "north"), OWN);
    List<Step> steps = List.of(set("INES", "districts", List.of("north"), "delta"));
    assertThat(SightOrder.of(before, steps, CLOCK).steps()).isEqualTo(steps);
  }

  @Test
  void whatIsPreparedBeforeItCountsNeedsNoClosing() {
    Access before = with(tiny(), OWN);
    List<Step> steps =
        List.of(
            set("INES", "areas", List.of(), "delta"),
            new ShowSafely(view(before, OWN), view(before, AREAS)));
    assertThat(SightOrder.of(before, steps, CLOCK).steps()).isEqualTo(steps);
  }

  @Test
  void policiesAndTheFactsTheyAskForAreChangedBehindAClosedView() {
    Access before = with(tiny().attribute("INES", "districts", "north"), OWN + STARS);
    List<Step> steps =
        List.of(
            set("INES", "districts", List.of("north"), "delta", "coast"),
            new ShowSafely(view(before, OWN + STARS), view(before, OWN + BLANK)));
    assertThat(keeps(before, steps)).isFalse();
    SightOrder.Result order = SightOrder.of(before, steps, CLOCK);
    assertThat(order.closed()).hasSize(1);
    assertThat(keeps(before, order.steps())).isTrue();
    assertThat(looks(Outcome.of(before, order.steps()).after()))
        .isEqualTo(looks(Outcome.of(before, steps).after()));
  }

  @Test
  void anyOrderOfAnyChangeKeepsWhatIsHiddenAndCanBeResumedAndUndone() {
    int exposed = 0;
    for (int seed = 0; seed < 400; seed++) {
      Random random = new Random(seed);
      TinyEstate tiny = tiny();
      List<Step> steps = new ArrayList<>();
      for (String user : List.of("INES", "RUI")) {
        for (String role : List.of("LEAD", "DESK")) {
          switch (random.nextInt(4)) {
            case 0 -> steps.add(new GiveRole(role, user, ON, null, false));
            case 1 -> {
              tiny.member(user, role, ON);
              steps.add(new TakeRole(role, user, ON, null, false));
            }
            case 2 -> tiny.member(user, role, ON);
            default -> {
              // never held
            }
          }
        }
        for (String attribute : List.of("districts", "areas")) {
          if (random.nextBoolean()) {
            tiny.attribute(user, attribute, "north");
            if (random.nextBoolean()) {
              steps.add(set(user, attribute, List.of("north"), "delta"));
            }
          }
        }
      }
      List<String> all = List.of(NORTH, OWN, AREAS, OWN + STARS, AREAS + BLANK, STARS);
      String policies = all.get(random.nextInt(all.size()));
      Access before = with(tiny, policies);
      String after = all.get(random.nextInt(all.size()));
      if (!after.equals(policies)) {
        steps.add(new ShowSafely(view(before, policies), view(before, after)));
      }
      java.util.Collections.shuffle(steps, random);
      exposed += keeps(before, steps) ? 0 : 1;
      List<Step> safe = SightOrder.of(before, steps, CLOCK).steps();
      assertThat(keeps(before, safe)).as("seed " + seed).isTrue();
      Map<Integer, Look> is = looks(Outcome.of(before, steps).after());
      for (int done = 0; done <= safe.size(); done++) {
        Access half = Outcome.of(before, safe.subList(0, done)).after();
        List<Step> missing = new Done(half).missing(safe);
        assertThat(looks(Outcome.of(half, missing).after())).as("seed " + seed).isEqualTo(is);
        assertThat(new Done(Outcome.of(half, missing).after()).missing(safe)).isEmpty();
        List<Step> back = new Done(half).undo(safe);
        assertThat(looks(Outcome.of(half, back).after()))
            .as("seed %s, undone after %s of %s", seed, done, safe)
            .isEqualTo(looks(before));
      }
    }
    // else nothing was tried
    assertThat(exposed).isGreaterThan(50);
  }
}
