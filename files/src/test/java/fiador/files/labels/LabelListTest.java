package fiador.files.labels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LabelListTest {
  @TempDir Path folder;

  private List<LabelList.Line> read(String text) throws Exception {
    return LabelList.read(Files.writeString(folder.resolve("labels.csv"), text));
  }

  @Test
  void columnsMayStandInAnyOrder() throws Exception {
    assertThat(read("Object,label,server\n\"a.b,c\", secret ,n*\nx,open,\n"))
        .containsExactly(
            new LabelList.Line("secret", "n*", "a.b,c", 2), new LabelList.Line("open", "", "x", 3));
    assertThat(read("\uFEFFlabel,object\nsecret,*.phone\n"))
        .containsExactly(new LabelList.Line("secret", "", "*.phone", 2));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "label,thing~a,b|:1: expected the columns",
        "label,label,object~a,b,c|:1: expected the columns",
        "label|:1: expected the columns",
        "label,object|labels nothing",
        "label,object~a|:2: expected 2 fields, found 1",
        "label,object~a,b~,c|:3: a label and what carries it",
        "label,object~a,\"b|no CSV",
      })
  void whatIsWrongIsSaidWithItsPlace(String text, String said) {
    assertThatThrownBy(() -> read(text.replace('~', '\n'))).hasMessageContaining(said);
  }

  @Test
  void anotherEncodingIsToldAsOne() throws Exception {
    Path file = folder.resolve("latin.csv");
    Files.write(file, "label,object\nsegrêdo,a\n".getBytes(StandardCharsets.ISO_8859_1));
    assertThatThrownBy(() -> LabelList.read(file)).hasMessageContaining("not in UTF-8");
  }
}
