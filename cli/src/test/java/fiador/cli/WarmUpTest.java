package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is warmed up is what real commands do: each comes to an answer. */
final class WarmUpTest {
  @ParameterizedTest
  @ValueSource(strings = {"answers", "looks", "pictures"})
  void everyCommandOfAFamilyAnswers(String family) throws Exception {
    assertThat(new WarmUp().run(family)).isEmpty();
  }
}
