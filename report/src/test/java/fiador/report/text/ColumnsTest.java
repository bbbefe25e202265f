package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.report.shown.Tone;
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
  void aWordThatFitsNowhereIsBrokenAndRunsIntoNoOther() {
    String word = "x".repeat(200);
    String text = new Columns(40).line("a", word, "end").text();
    assertThat(text.lines()).allMatch(line -> line.length() <= 40);
    assertThat(text.lines().findFirst().orElseThrow()).endsWith("end");
    assertThat(text.chars().filter(c -> c == 'x')).hasSize(200);
  }

  @Test
  void aLongNameIsBrokenBehindAPart() {
    String text = new Columns(30).line("billing.invoice_totals_by_month", "yes").text();
    assertThat(text).isEqualTo("  billing.invoice_    yes\n    totals_by_month\n");
  }

  @Test
  void lettersThatTakeTwoPlacesOrNoneAreCountedAsTheyAreShown() {
    String text = new Columns(60).line("\u6c34\u9053", "x").line("a\u0301bcd", "x").text();
    assertThat(text).isEqualTo("  \u6c34\u9053   x\n  a\u0301bcd   x\n");
  }

  @Test
  void tonesTakeNoPlace() {
    String text = new Columns(60).line(Tone.GOOD.of("live"), "x").line("lapsed", "x").text();
    assertThat(Tone.plain(text)).isEqualTo("  live     x\n  lapsed   x\n");
    assertThat(text).isNotEqualTo(Tone.plain(text));
  }
}
