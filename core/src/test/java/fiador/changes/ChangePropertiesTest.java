package fiador.changes;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.RandomAccess;
import fiador.effects.State;
import fiador.grants.Access;
import fiador.grants.Rebuilt;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class ChangePropertiesTest {
  private static final Clock NOW =
      Clock.fixed(Instant.parse("2026-01-01T00:00:00Z"), ZoneOffset.UTC);

  private static Outcome.Result change(Access access, long seed) {
    Random random = new Random(seed * 31 + 7);
    return Outcome.of(access, RandomSteps.of(access, random, 1 + random.nextInt(8)));
  }

  private static List<String> texts(List<Holding> rows) {
    return rows.stream().map(Holding::toString).toList();
  }

  @Property(tries = 600)
  void anOverlayAnswersLikeTheEstateBuiltAnew(@ForAll long seed) {
    Access overlay = change(RandomAccess.of(seed), seed).after();
    Access rebuilt = Rebuilt.from(overlay);
    Holdings one = new Holdings(overlay, NOW, true);
    Holdings other = new Holdings(rebuilt, NOW, true);
    for (int user = 1; user < overlay.principals().size(); user++) {
      assertThat(texts(one.of(user))).isEqualTo(texts(other.of(user)));
      assertThat(one.count(user)).isEqualTo(other.count(user));
    }
    for (int node = 0; node < overlay.tree().size(); node++) {
      assertThat(texts(new Holders(overlay, NOW).of(node)))
          .isEqualTo(texts(new Holders(rebuilt, NOW).of(node)));
    }
  }

  @Property(tries = 600)
  void whatPeopleGainAndLoseIsWhatComparingEverythingFinds(@ForAll long seed) {
    Access before = RandomAccess.of(seed);
    Outcome.Result outcome = change(before, seed);
    assertThat(changed(PeopleEffects.of(before, outcome, NOW)))
        .isEqualTo(allDifferences(before, outcome.after()));
  }

  @Property(tries = 600)
  void theGainsAreFoundAsWellWhereOnlyTheyAreLookedFor(@ForAll long seed) {
    Access before = RandomAccess.of(seed);
    Outcome.Result outcome = change(before, seed);
    assertThat(PeopleEffects.gains(before, outcome, NOW))
        .isEqualTo(PeopleEffects.of(before, outcome, NOW).stream().filter(Change::isGain).toList());
  }

  @Test
  void theRandomChangesDoSomething() {
    int touching = 0;
    for (long seed = 0; seed < 100; seed++) {
      Access before = RandomAccess.of(seed);
      touching += PeopleEffects.of(before, change(before, seed), NOW).isEmpty() ? 0 : 1;
    }
    assertThat(touching).isGreaterThan(60);
  }

  private record Cell(int user, String what, int node, int column) {}

  private static Set<String> changed(List<Change> changes) {
    TreeSet<String> found = new TreeSet<>();
    for (Change change : changes) {
      int column = change.columns() == null ? -1 : change.columns().nextSetBit(0);
      found.add(
          new Cell(change.user(), change.privilege().text(), change.node(), column)
              + " "
              + change.was()
              + " "
              + change.is()
              + " "
              + change.couldGrant()
              + " "
              + change.canGrant());
    }
    return found;
  }

  /** Brute force: every holding of everybody before and after, column by column. */
  private static Set<String> allDifferences(Access before, Access after) {
    Map<Cell, Object[]> cells = new HashMap<>();
    List<Access> both = List.of(before, after);
    for (int at = 0; at < both.size(); at++) {
      Access access = both.get(at);
      Holdings holdings = new Holdings(access, NOW, false);
      for (int user = 1; user < access.principals().size(); user++) {
        for (Holding row :
            access.principals().isUser(user) ? holdings.of(user) : List.<Holding>of()) {
          List<Integer> columns = new ArrayList<>();
          if (row.columns() == null) {
            columns.add(-1);
          } else {
            row.columns().stream().forEach(columns::add);
          }
          for (int column : columns) {
            Object[] cell =
                cells.computeIfAbsent(
                    new Cell(user, row.privilege().text(), row.node(), column),
                    fresh -> new Object[] {null, null, false, false});
            State state = (State) cell[at];
            cell[at] = state == null || row.state().compareTo(state) < 0 ? row.state() : state;
            cell[2 + at] = (boolean) cell[2 + at] || row.grantable();
          }
        }
      }
    }
    TreeSet<String> found = new TreeSet<>();
    cells.forEach(
        (cell, is) -> {
          Object[] whole = cells.get(new Cell(cell.user(), cell.what(), cell.node(), -1));
          Object[] so = is.clone();
          for (int side = 0; side < 2 && cell.column() >= 0 && whole != null; side++) {
            State own = (State) is[side];
            State all = (State) whole[side];
            so[side] = own == null || all != null && all.compareTo(own) < 0 ? all : own;
            so[2 + side] = (boolean) is[2 + side] || (boolean) whole[2 + side];
          }
          if (so[0] != so[1] || !so[2].equals(so[3])) {
            found.add(cell + " " + so[0] + " " + so[1] + " " + so[2] + " " + so[3]);
          }
        });
    return found;
  }
}
