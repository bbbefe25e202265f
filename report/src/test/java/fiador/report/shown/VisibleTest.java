package fiador.report.shown;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Nothing a name holds reaches a terminal as anything but letters. */
class VisibleTest {
  /** A title, a colour, a hyperlink, bells, C1 controls, turned writing, letters without room. */
  private static final List<String> HOSTILE =
      List.of(
          "\u001b]0;owned\u0007",
          "\u001b[31mred",
          "\u009b31m",
          "\u0085next",
          "\u202egnp.exe",
          "\u2066x\u2069",
          "\u200b\u200d\ufeff\u00ad",
          "\u2028line",
          "\udb40\udc41tag",
          "\u3164filler",
          "a\rb",
          "\u0000\u007f");

  private static String through(String text, int piece) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (VisibleStream stream = new VisibleStream(out)) {
      byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
      for (int at = 0; at < bytes.length; at += piece) {
        stream.write(bytes, at, Math.min(piece, bytes.length - at));
        stream.flush();
      }
    }
    return out.toString(StandardCharsets.UTF_8);
  }

  @Test
  void hostileCharactersAreWrittenOut() throws IOException {
    for (String hostile : HOSTILE) {
      for (int piece : new int[] {1, 2, 3, 100}) {
        String seen = through(hostile + " end\n", piece);
        assertThat(seen.substring(0, seen.length() - 1).codePoints().allMatch(Visible::is))
            .as(seen)
            .isTrue();
        assertThat(seen).contains("\\u").endsWith(" end\n");
      }
      assertThat(Visible.of(hostile).codePoints().allMatch(Visible::is)).isTrue();
    }
  }

  @Test
  void whatPeopleWriteStaysAsItIs() throws IOException {
    String plain = "José 名前 ünï – “ok” \t é\r\nتجربة 😀\n";
    for (int piece : new int[] {1, 3, 1000}) {
      assertThat(through(plain, piece)).isEqualTo(plain);
    }
  }

  @Test
  void bytesThatAreNoTextDoNoHarm() throws IOException {
    Random random = new Random(7);
    for (int i = 0; i < 2_000; i++) {
      byte[] bytes = new byte[random.nextInt(40)];
      random.nextBytes(bytes);
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      try (VisibleStream stream = new VisibleStream(out)) {
        stream.write(bytes);
        stream.write('.');
      }
      String seen = out.toString(StandardCharsets.UTF_8);
      assertThat(seen).endsWith(".");
      assertThat(seen.codePoints().allMatch(c -> Visible.is(c) || c == '\n' || c == '\t'))
          .as(seen)
          .isTrue();
    }
  }

  @Test
  void jsonReadsBackWhatItWas() throws IOException {
    for (String hostile : HOSTILE) {
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      try (RowWriter rows = RowWriter.to(new VisibleStream(out), Format.JSONL, List.of("name"))) {
        rows.row(Map.of("name", hostile));
      }
      try (JsonParser json = new JsonFactory().createParser(out.toByteArray())) {
        json.nextToken();
        json.nextToken();
        assertThat(json.nextTextValue()).isEqualTo(hostile);
      }
    }
  }

  @Test
  void markdownShowsMarkupAsItIsWritten() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("name", "<img src=x> [a](b) `c` *d* x|y _e_ billing_read &amp;\nnext");
    try (RowWriter rows = RowWriter.to(out, Format.MARKDOWN, List.of("name"))) {
      rows.row(row);
    }
    assertThat(out.toString(StandardCharsets.UTF_8).lines().skip(2))
        .containsExactly(
            "| \\<img src=x\\> \\[a\\](b) \\`c\\` \\*d\\* x\\|y \\_e\\_ billing_read \\&amp; next |");
  }
}
