package fiador.estate;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class NamesTest {
  @Property(tries = 200)
  void eachTextHasOneIdAndComesBack(@ForAll List<String> texts) {
    Names names = new Names();
    for (String text : texts) {
      int id = names.intern(text);
      assertThat(names.text(id)).isEqualTo(text);
      assertThat(names.find(text)).isEqualTo(id);
      assertThat(names.intern(text)).isEqualTo(id);
    }
    assertThat(names.size()).isEqualTo((int) texts.stream().distinct().count());
  }

  @Test
  void manyNamesAreAllFoundAgain() {
    Names names = new Names();
    for (int i = 0; i < 100_000; i++) {
      assertThat(names.intern("name_" + i)).isEqualTo(i);
    }
    for (int i = 0; i < 100_000; i += 997) {
      assertThat(names.find("name_" + i)).isEqualTo(i);
    }
    assertThat(names.find("name_")).isNegative();
  }

  @Test
  void theNearestNamesComeFirstAndFarOnesNotAtAll() {
    List<String> names = List.of("select", "insert", "update", "selected");
    assertThat(Nearest.to("selecte", names.stream(), 2)).containsExactly("select", "selected");
    assertThat(Nearest.hint("xyz", names.stream())).isEmpty();
  }
}
