package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.report.shown.Tone;
import org.junit.jupiter.api.Test;

/** The first line of an answer keeps within the width. */
class HeadlineTest {
  @Test
  void theOriginStandsToTheRight() {
    assertThat(Tone.plain(Headline.of("no gap", "now", 20)))
        .isEqualTo("no gap" + " ".repeat(9) + "(now)");
  }

  @Test
  void whatDoesNotFitComesOnALineOfItsOwn() {
    assertThat(Tone.plain(Headline.of("a long answer", "survey of x", 20)))
        .isEqualTo("a long answer\n       (survey of x)");
  }
}
