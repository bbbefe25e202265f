package fiador.repairs;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.repairs.RoleCover.Cover;
import fiador.repairs.RoleCover.Role;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class RoleCoverTest {
  private static List<BitSet> noise(long seed) {
    Random random = new Random(seed);
    int users = 1 + random.nextInt(12);
    int privileges = 1 + random.nextInt(12);
    int density = 1 + random.nextInt(9);
    List<BitSet> held = new ArrayList<>();
    for (int user = 0; user < users; user++) {
      BitSet row = new BitSet();
      for (int privilege = 0; privilege < privileges; privilege++) {
        row.set(privilege, random.nextInt(10) < density);
      }
      held.add(row);
    }
    return held;
  }

  private static void isExact(Cover cover, List<BitSet> held) {
    List<BitSet> given = new ArrayList<>();
    held.forEach(row -> given.add(new BitSet()));
    for (Role role : cover.roles()) {
      assertThat(role.privileges().isEmpty()).isFalse();
      role.users().stream().forEach(user -> given.get(user).or(role.privileges()));
    }
    assertThat(given).isEqualTo(held);
  }

  @Property(tries = 2000)
  void everybodyGetsExactlyWhatHeHas(@ForAll long seed) {
    List<BitSet> held = noise(seed);
    Cover cover = RoleCover.of(held);
    isExact(cover, held);
    assertThat(cover.roles()).hasSizeGreaterThanOrEqualTo(cover.atLeast());
  }

  /** The fewest roles, by trying: roles are intersections of rows, as none needs to be smaller. */
  private static int fewest(List<BitSet> held) {
    List<BitSet> candidates = new ArrayList<>();
    for (int some = 1; some < 1 << held.size(); some++) {
      BitSet all = new BitSet();
      all.set(0, 64);
      for (int user = 0; user < held.size(); user++) {
        if ((some >> user & 1) != 0) {
          all.and(held.get(user));
        }
      }
      if (!all.isEmpty() && !candidates.contains(all)) {
        candidates.add(all);
      }
    }
    for (int count = 0; ; count++) {
      if (covers(held, candidates, count, 0, new ArrayList<>())) {
        return count;
      }
    }
  }

  private static boolean covers(
      List<BitSet> held, List<BitSet> candidates, int count, int from, List<BitSet> taken) {
    if (count == 0) {
      for (BitSet row : held) {
        BitSet given = new BitSet();
        for (BitSet role : taken) {
          BitSet rest = (BitSet) role.clone();
          rest.andNot(row);
          if (rest.isEmpty()) {
            given.or(role);
          }
        }
        if (!given.equals(row)) {
          return false;
        }
      }
      return true;
    }
    for (int at = from; at < candidates.size(); at++) {
      taken.add(candidates.get(at));
      boolean found = covers(held, candidates, count - 1, at + 1, taken);
      taken.remove(taken.size() - 1);
      if (found) {
        return true;
      }
    }
    return false;
  }

  private static List<BitSet> small(long seed) {
    Random random = new Random(seed);
    List<BitSet> held = new ArrayList<>();
    for (int user = 0; user < 5; user++) {
      BitSet row = new BitSet();
      for (int privilege = 0; privilege < 6; privilege++) {
        row.set(privilege, random.nextInt(10) < 5);
      }
      held.add(row);
    }
    return held;
  }

  @Property(tries = 150)
  void theBoundHolds(@ForAll long seed) {
    int fewest = fewest(small(seed));
    Cover cover = RoleCover.of(small(seed));
    assertThat(cover.atLeast()).isLessThanOrEqualTo(fewest);
    assertThat(cover.roles()).hasSizeGreaterThanOrEqualTo(fewest);
  }

  @Test
  void theFewestAreMostlyFound() {
    int found = 0;
    for (long seed = 0; seed < 200; seed++) {
      found += RoleCover.of(small(seed)).roles().size() == fewest(small(seed)) ? 1 : 0;
    }
    assertThat(found).isGreaterThanOrEqualTo(190);
  }

  @Test
  void plantedRolesAreFoundAgain() {
    int asFew = 0;
    int proved = 0;
    for (int seed = 0; seed < 100; seed++) {
      Random random = new Random(seed);
      int roles = 5 + random.nextInt(20);
      int privileges = roles * 4;
      int users = 30 + random.nextInt(120);
      List<BitSet> planted = new ArrayList<>();
      for (int role = 0; role < roles; role++) {
        BitSet some = new BitSet();
        int size = 2 + random.nextInt(9);
        for (int i = 0; i < size; i++) {
          some.set(random.nextInt(privileges));
        }
        planted.add(some);
      }
      List<BitSet> held = new ArrayList<>();
      for (int user = 0; user < users; user++) {
        BitSet row = new BitSet();
        int count = 1 + random.nextInt(3);
        for (int i = 0; i < count; i++) {
          row.or(planted.get(random.nextInt(roles)));
        }
        held.add(row);
      }
      Cover cover = RoleCover.of(held);
      isExact(cover, held);
      asFew += cover.roles().size() <= roles ? 1 : 0;
      proved += cover.roles().size() == cover.atLeast() ? 1 : 0;
    }
    assertThat(asFew).isGreaterThanOrEqualTo(95);
    assertThat(proved).isGreaterThanOrEqualTo(80);
  }
}
