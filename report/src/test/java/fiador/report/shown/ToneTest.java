package fiador.report.shown;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Tones become colours at the last door, and nothing that anybody wrote does. */
final class ToneTest {
  private static String through(String text, Palette palette, int pieces) throws IOException {
    ByteArrayOutputStream seen = new ByteArrayOutputStream();
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    try (ToneStream door = new ToneStream(seen, palette)) {
      for (int at = 0; at < bytes.length; at += pieces) {
        door.write(bytes, at, Math.min(pieces, bytes.length - at));
        door.flush();
      }
    }
    return seen.toString(StandardCharsets.UTF_8);
  }

  @Test
  void aToneBecomesAColourHoweverItArrives() throws IOException {
    String text = "is " + Tone.GOOD.of("live") + ", " + Tone.BAD.of("n\u00e3o") + "\n";
    for (int pieces : new int[] {1, 2, 7, 1000}) {
      assertThat(through(text, Palette.EIGHT, pieces))
          .isEqualTo("is \u001b[32mlive\u001b[0m, \u001b[31mn\u00e3o\u001b[0m\n");
      assertThat(through(text, Palette.NONE, pieces)).isEqualTo("is live, n\u00e3o\n");
    }
  }

  @ParameterizedTest
  @EnumSource(Palette.class)
  void whatSomebodyWroteIsNeverAColour(Palette palette) throws IOException {
    String begins = Tone.BEGIN.substring(0, 3);
    for (String hostile :
        new String[] {"\u001b[31mred", begins, "\ue0fe\ue0fe\ue0f0", "\u009b1m"}) {
      String seen = through(hostile + "x" + Tone.STRONG.of("y"), palette, 5);
      String colours = palette == Palette.NONE ? "" : "\u001b[1m";
      assertThat(seen).startsWith(Visible.of(hostile) + "x" + colours + "y");
      assertThat(seen.replace(colours, "")).doesNotContain("\u009b");
    }
  }

  @Test
  void aNameCannotHoldATone() {
    String name = "x" + Tone.BEGIN + Tone.GOOD.code();
    assertThat(Visible.of(name)).doesNotContain(Tone.BEGIN);
    assertThat(Tone.width(Tone.BAD.of(Visible.of("abc")))).isEqualTo(3);
  }

  @Test
  void coloursAreForTerminalsThatHaveThem() {
    assertThat(Palette.of("xterm-256color", null)).isEqualTo(Palette.MANY);
    assertThat(Palette.of("xterm", "")).isEqualTo(Palette.EIGHT);
    assertThat(Palette.of("xterm", "1")).isEqualTo(Palette.NONE);
    assertThat(Palette.of("dumb", null)).isEqualTo(Palette.NONE);
    assertThat(Palette.of(null, null)).isEqualTo(Palette.NONE);
  }
}
