package fiador.changes.outcome;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.RandomSteps;
import fiador.changes.outcome.SightEffects.Eyes;
import fiador.changes.outcome.SightEffects.Look;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Tuple;
import net.jqwik.api.Tuple.Tuple2;
import org.junit.jupiter.api.Test;

/** What a change does to what people see, against looking at every table with everybody's eyes. */
final class SightEffectsTest {
  private static final Clock CLOCK = Clock.systemUTC();
  private static final String OWN = "any\tp\ttrue\tholds(\"desk\")\tdistrict in user.districts";
  private static final String STARS = "mask\tm\tholds(\"desk\")\tphone\tstars";

  private static Access estate(Random random) {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users("ines", "rui", "ana")
            .roles("lead", "desk", "reader")
            .node(NodeKind.SCHEMA, "d.s")
            .table("d.s.t", null, "district:text", "phone:text")
            .node(NodeKind.VIEW, "d.s.t_safe", "district", "phone")
            .table("d.s.u", null, "district:text", "phone:text")
            .node(NodeKind.VIEW, "d.s.u_safe", "district", "phone")
            .attribute("ines", "districts", "north")
            .member("ines", "desk")
            .member("ines", "reader")
            .member("rui", "lead")
            .member("ana", "reader")
            .kept("d.s.t_safe", "d.s.t", true, OWN, STARS)
            .kept("d.s.u_safe", "d.s.u", true, STARS);
    for (String role : List.of("lead", "desk", "reader", "rui")) {
      for (String node : List.of("d.s.t", "d.s.t_safe", "d.s.u", "d.s.u_safe")) {
        if (random.nextInt(3) == 0) {
          tiny.grant(role, "select", node);
        }
      }
      if (random.nextInt(3) > 0) {
        tiny.grant(role, "usage", "d.s");
      }
    }
    return tiny.build();
  }

  /** Who sees which table otherwise, looked at one by one. */
  private static Set<Tuple2<Integer, Integer>> looked(Access before, Access after) {
    Set<Tuple2<Integer, Integer>> found = new HashSet<>();
    for (int table : SightEffects.tables(before, after)) {
      Map<Integer, Look> was = new Eyes(before, CLOCK).of(table);
      Map<Integer, Look> is = new Eyes(after, CLOCK).of(table);
      Set<Integer> users = new TreeSet<>(was.keySet());
      users.addAll(is.keySet());
      users.removeIf(user -> Objects.equals(was.get(user), is.get(user)));
      users.forEach(user -> found.add(Tuple.of(user, table)));
    }
    return found;
  }

  private static Set<Tuple2<Integer, Integer>> told(Access before, Outcome.Result outcome) {
    List<PeopleEffects.Change> effects = PeopleEffects.of(before, outcome, CLOCK);
    Set<Tuple2<Integer, Integer>> found = new HashSet<>();
    SightEffects.of(before, outcome, effects, CLOCK)
        .forEach(change -> found.add(Tuple.of(change.user(), change.table())));
    return found;
  }

  @Property(tries = 500)
  void whoeverSeesATableOtherwiseIsTold(@ForAll long seed) {
    Random random = new Random(seed);
    Access before = estate(random);
    List<Step> steps = RandomSteps.of(before, random, 8);
    List<Step> rights =
        steps.stream().filter(step -> step instanceof Grant || step instanceof Revoke).toList();
    for (List<Step> some : List.of(steps, rights)) {
      Outcome.Result outcome = Outcome.of(before, some);
      assertThat(told(before, outcome)).isEqualTo(looked(before, outcome.after()));
    }
  }

  @Test
  void theRandomChangesDoSomethingToWhatIsSeen() {
    int otherwise = 0;
    for (long seed = 0; seed < 200; seed++) {
      Random random = new Random(seed);
      Access before = estate(random);
      List<Step> rights =
          RandomSteps.of(before, random, 8).stream()
              .filter(step -> step instanceof Grant || step instanceof Revoke)
              .toList();
      otherwise += looked(before, Outcome.of(before, rights).after()).isEmpty() ? 0 : 1;
    }
    assertThat(otherwise).isGreaterThan(50);
  }
}
