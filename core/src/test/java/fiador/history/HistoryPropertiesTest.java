package fiador.history;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.RandomSteps;
import fiador.changes.outcome.Outcome;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.RandomAccess;
import fiador.grants.Access;
import fiador.grants.Rebuilt;
import fiador.history.HoldingDifference.Turn;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class HistoryPropertiesTest {
  private static Access changed(Access before, long seed) {
    Random random = new Random(seed * 31 + 7);
    return Outcome.of(before, RandomSteps.of(before, random, 1 + random.nextInt(8))).after();
  }

  @Property(tries = 300)
  void theSameUnderOtherIdsDiffersInNothing(@ForAll long seed) {
    Access one = RandomAccess.of(seed);
    Access other = Rebuilt.underOtherIds(one);
    assertThat(FactDifference.between(one, other)).isEmpty();
    HoldingDifference difference = new HoldingDifference(one, other);
    for (int user = 1; user < one.principals().size(); user++) {
      int there = one.principals().size() - user;
      assertThat(other.principals().name(there)).isEqualTo(one.principals().name(user));
      assertThat(difference.ofPrincipal(user, there)).isEmpty();
    }
    for (int node = 0; node < one.tree().size(); node++) {
      assertThat(difference.onNode(node, node)).isEmpty();
    }
  }

  @Property(tries = 300)
  void whatTurnedLeadsFromTheOneToTheOther(@ForAll long seed) {
    Access before = RandomAccess.of(seed);
    Access after = Rebuilt.underOtherIds(changed(before, seed));
    HoldingDifference difference = new HoldingDifference(before, after);
    for (int user = 1; user < after.principals().size(); user++) {
      int was = before.principals().named(after.principals().name(user));
      Map<String, String> held = was < 0 ? new TreeMap<>() : held(before, was);
      for (Turn turn : difference.ofPrincipal(was, user)) {
        if (turn.was() != null) {
          assertThat(held.remove(what(before, turn.was()))).isEqualTo(how(turn.was()));
        }
        if (turn.is() != null) {
          assertThat(held.put(what(after, turn.is()), how(turn.is()))).isNull();
        }
      }
      assertThat(held).isEqualTo(held(after, user));
    }
  }

  @Test
  void factsComeAndGoWithTheChange() {
    int different = 0;
    for (long seed = 0; seed < 100; seed++) {
      Access before = RandomAccess.of(seed);
      Access after = changed(before, seed);
      long there = FactDifference.between(before, after).stream().filter(f -> f.came()).count();
      long back = FactDifference.between(after, before).stream().filter(f -> !f.came()).count();
      assertThat(there).isEqualTo(back);
      boolean none = FactDifference.between(before, after).isEmpty();
      different += none ? 0 : 1;
      if (none) {
        assertThat(everything(after)).isEqualTo(everything(before));
      }
    }
    assertThat(different).isGreaterThan(60);
  }

  private static List<Map<String, String>> everything(Access access) {
    return java.util.stream.IntStream.range(1, access.principals().size())
        .mapToObj(user -> held(access, user))
        .toList();
  }

  private static String what(Access access, Holding row) {
    return row.privilege()
        + " "
        + access.tree().path(row.node())
        + " "
        + (row.columns() == null
            ? ""
            : row.columns().stream().mapToObj(c -> access.tree().column(row.node(), c)).toList());
  }

  private static String how(Holding row) {
    return row.state() + " " + row.grantable();
  }

  /** All that is held: the best state of each, and whether it can be granted on in any. */
  private static Map<String, String> held(Access access, int user) {
    Clock then = Clock.fixed(access.about().taken(), ZoneOffset.UTC);
    Map<String, String> held = new TreeMap<>();
    for (Holding row : new Holdings(access, then, false).of(user)) {
      held.merge(
          what(access, row),
          how(row),
          (best, worse) ->
              best.split(" ", 2)[0] + " " + (best.endsWith("true") || row.grantable()));
    }
    return held;
  }
}
