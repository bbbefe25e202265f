package fiador.estate;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.NotEmpty;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class DottedNameTest {
  @Property
  void whatIsQuotedSplitsBackIntoTheSameParts(
      @ForAll @Size(min = 1, max = 4) List<@NotEmpty String> parts) {
    String path = String.join(".", parts.stream().map(DottedName::quoted).toList());
    assertThat(DottedName.split(path)).extracting(DottedName.Part::text).isEqualTo(parts);
  }

  @Test
  void plainNamesAreNotQuoted() {
    assertThat(DottedName.quoted("ünï_1$")).isEqualTo("ünï_1$");
    assertThat(DottedName.quoted("a-b")).isEqualTo("\"a-b\"");
    assertThat(DottedName.quoted("say \"hi\"")).isEqualTo("\"say \"\"hi\"\"\"");
  }

  @Test
  void aRoutinesArgumentsStayOutsideTheQuotes() {
    assertThat(DottedName.quotedRoutine("odd name(integer, text)"))
        .isEqualTo("\"odd name\"(integer, text)");
    assertThat(DottedName.quotedRoutine("f(numeric(10,2))")).isEqualTo("f(numeric(10,2))");
    assertThat(DottedName.quotedRoutine("(paren)()")).isEqualTo("\"(paren)\"()");
    assertThat(DottedName.quotedRoutine("g(\"Odd)Type\")")).isEqualTo("g(\"Odd)Type\")");
  }
}
