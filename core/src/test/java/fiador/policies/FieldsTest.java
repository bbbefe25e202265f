package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.NotEmpty;
import net.jqwik.api.constraints.Size;

final class FieldsTest {
  @Property
  void whatIsJoinedComesBack(@ForAll @NotEmpty @Size(max = 5) List<String> fields) {
    String line = Fields.join(fields.toArray(String[]::new));
    assertThat(line).doesNotContain("\n", "\r");
    assertThat(Fields.of(line)).containsExactlyElementsOf(fields);
  }

  @Property
  void oddNamesComeBack(
      @ForAll @net.jqwik.api.constraints.Chars({'\t', '\\', 't', '\n', 'n', '\r'}) String odd) {
    assertThat(Fields.of(Fields.join(odd, "x", odd))).containsExactly(odd, "x", odd);
  }
}
