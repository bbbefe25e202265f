package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class ColumnsTest {
  @Test
  void cellsAreAligned() {
    assertThat(new Columns(60).line("a", "bb", "c").line("aaaa", "b", "c").text())
        .isEqualTo("  a      bb   c\n  aaaa   b    c\n");
  }

  @Test
  void theWidestColumnGivesWayFirstAndIsWrappedAtBlanks() {
    String text =
        new Columns(50).line("who", "one two three four five six seven eight", "end").text();
    assertThat(text.lines()).hasSize(2).allMatch(line -> line.length() <= 50);
    assertThat(text).contains("end").contains("eight");
  }

  @Test
  void aWordThatFitsNowhereIsLeftWhole() {
    String word = "x".repeat(200);
    assertThat(new Columns(40).line("a", word).text()).contains(word);
  }
}
