package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ShrinkingTest {
  @Test
  void whatIsLeftIsJustWhatTheFailureNeeds() throws Exception {
    Random random = new Random(3);
    for (int round = 0; round < 50; round++) {
      int size = 1 + random.nextInt(400);
      List<Integer> needed = new ArrayList<>();
      for (int i = 0; i < 1 + random.nextInt(4); i++) {
        needed.add(random.nextInt(size));
      }
      List<Integer> left =
          new Shrinking(5000).of(size, kept -> needed.stream().allMatch(kept::test));
      assertThat(left).containsExactlyElementsOf(needed.stream().distinct().sorted().toList());
    }
  }

  @Test
  void itGivesUpInTimeWithWhatItHas() throws Exception {
    int[] asked = {0};
    List<Integer> left =
        new Shrinking(10)
            .of(
                1000,
                kept -> {
                  asked[0]++;
                  return kept.test(0) && kept.test(999);
                });
    assertThat(asked[0]).isEqualTo(10);
    assertThat(left).contains(0, 999).hasSizeLessThan(1000);
  }
}
