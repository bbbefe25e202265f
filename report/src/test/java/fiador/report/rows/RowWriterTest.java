package fiador.report.rows;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class RowWriterTest {
  private static final List<String> FIELDS = List.of("user", "columns", "grantable");

  @SafeVarargs
  private static String written(Format format, Map<String, ?>... rows) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (RowWriter writer = RowWriter.to(out, format, FIELDS)) {
      for (Map<String, ?> row : rows) {
        writer.row(row);
      }
    }
    return out.toString(StandardCharsets.UTF_8);
  }

  private static Map<String, Object> row(Object... pairs) {
    Map<String, Object> row = new LinkedHashMap<>();
    for (int i = 0; i < pairs.length; i += 2) {
      row.put((String) pairs[i], pairs[i + 1]);
    }
    return row;
  }

  @Test
  void jsonLinesAreOneObjectEachAndAbsentFieldsAreAbsent() throws IOException {
    assertThat(
            written(
                Format.JSONL,
                row("user", "a\n\"b", "columns", null, "grantable", true),
                row("user", "c", "columns", List.of("x", "y"))))
        .isEqualTo(
            "{\"user\":\"a\\n\\\"b\",\"grantable\":true}\n{\"user\":\"c\",\"columns\":[\"x\",\"y\"]}\n");
  }

  @Test
  void csvStopsNamesFromBecomingFormulas() throws IOException {
    assertThat(
            written(
                Format.CSV,
                row("user", "=cmd()", "columns", List.of("a", "b"), "grantable", false),
                row("user", "+1", "grantable", true),
                row("user", "@x", "grantable", true),
                row("user", "-x", "grantable", true)))
        .isEqualTo(
            """
            user,columns,grantable
            "'=cmd()","a, b",false
            "'+1",,true
            "'@x",,true
            "'-x",,true
            """);
  }

  @Test
  void markdownKeepsItsTableWhateverTheName() throws IOException {
    assertThat(written(Format.MARKDOWN, row("user", "a|b\nc", "grantable", true)))
        .isEqualTo("| user | columns | grantable |\n| --- | --- | --- |\n| a\\|b c |  | true |\n");
  }

  @ParameterizedTest
  @EnumSource(
      value = Format.class,
      names = {"JSON", "JSONL", "CSV", "MARKDOWN"})
  void noRowsAreStillAWholeAnswer(Format format) throws IOException {
    String expected =
        switch (format) {
          case JSON -> "[ ]\n";
          case JSONL, TEXT -> "";
          case CSV -> "user,columns,grantable\n";
          case MARKDOWN -> "| user | columns | grantable |\n| --- | --- | --- |\n";
        };
    assertThat(written(format)).isEqualTo(expected);
  }
}
