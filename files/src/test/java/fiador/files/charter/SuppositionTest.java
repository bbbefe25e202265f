package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.Supposing.Holds;
import fiador.changes.Supposing.May;
import fiador.refusal.BadInput;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What somebody may suppose, in words. */
final class SuppositionTest {
  @Test
  void rolesAreHeldOrNot() throws BadInput {
    assertThat(Supposition.read("ines.duarte holds billing_read"))
        .isEqualTo(new Holds("ines.duarte", "billing_read", false));
    assertThat(Supposition.read(" not \"odd \"\" name\" holds \"a role\" "))
        .isEqualTo(new Holds("\"odd \"\" name\"", "\"a role\"", true));
  }

  @Test
  void grantsAreACharterSentences() throws BadInput {
    May may = (May) Supposition.read("not reader may select (a, b) on s.t, every view in v");
    assertThat(may.not()).isTrue();
    assertThat(may.grantee()).isEqualTo("reader");
    assertThat(may.grants()).hasSize(2);
    assertThat(may.grants().get(0).actions().get(0).columns()).containsExactly("a", "b");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "ines",
        "ines holds",
        "holds reader",
        "ines has reader",
        "ines may",
        "ines may fly on t",
        "ines holds two roles",
        "not",
        "ines may select on",
        "may may may",
        "not not x holds y"
      })
  void allElseIsRefusedInWords(String sentence) {
    assertThatThrownBy(() -> Supposition.read(sentence))
        .isInstanceOf(BadInput.class)
        .hasMessageMatching("(?s).*(suppose|is not the name).*");
  }
}
