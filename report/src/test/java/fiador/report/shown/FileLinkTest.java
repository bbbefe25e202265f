package fiador.report.shown;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** Files that an answer names are links where a terminal knows them, and plain words elsewhere. */
final class FileLinkTest {
  private static String through(String text, boolean links) throws IOException {
    ByteArrayOutputStream seen = new ByteArrayOutputStream();
    try (ToneStream door = new ToneStream(seen, Palette.NONE, links)) {
      door.write(text.getBytes(StandardCharsets.UTF_8));
    }
    return seen.toString(StandardCharsets.UTF_8);
  }

  @Test
  void aFileIsALinkWhereTheTerminalKnowsThem() throws IOException {
    Path file = Path.of("made up", "s\u00e9 x.jsonl");
    String uri = file.toAbsolutePath().toUri().toASCIIString();
    String text = "written to " + FileLink.to(file) + "\n";
    assertThat(through(text, true))
        .isEqualTo("written to \u001b]8;;" + uri + "\u001b\\" + file + "\u001b]8;;\u001b\\\n");
    assertThat(through(text, false)).isEqualTo("written to " + file + "\n");
    assertThat(uri).matches("[\\x21-\\x7e]+");
  }

  @Test
  void aNameIsShownAndNoControlOfItsOwn() throws IOException {
    Path hostile = Path.of("a\u001b]8;;http:evil\u001b\\b");
    String seen = through(FileLink.to(hostile), true);
    assertThat(seen.split("\u001b]8;;", -1)).hasSize(3);
    assertThat(seen).contains("\\u001b]8;;http:evil");
    assertThat(through("\u001b]8;;http:evil\u001b\\x", true)).doesNotContain("\u001b");
  }

  @Test
  void eachOfManyLeadsToItsOwnFile() throws IOException {
    for (int i = 0; i < 9000; i++) {
      String link = FileLink.to(Path.of("f" + i));
      if (i % 100 == 0) {
        assertThat(through(link, true)).contains("/f" + i + "\u001b");
        assertThat(through(link, false)).isEqualTo("f" + i);
      }
    }
  }

  @Test
  void onlyTerminalsThatSayWhoTheyAreGetLinks() {
    assertThat(FileLink.known("xterm-256color", null, "7000", null)).isTrue();
    assertThat(FileLink.known("xterm-256color", null, null)).isFalse();
    assertThat(FileLink.known("dumb", "some")).isFalse();
    assertThat(FileLink.known(null, "some")).isFalse();
  }
}
