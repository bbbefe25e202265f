package fiador.houses;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What a field of a house sheet can be made of. */
class ExpressionTest {
  private static final List<String> HEADER = List.of("NAME", "host", "empty");
  private static final List<String> ROW = List.of("Ines.Duarte@Home", " box ", "");

  private static String made(FieldValue value) throws BadRowException {
    FactSource source =
        new FactSource(FactSort.POWERS, "q", null, Map.of(), Map.of("name", value), false, false);
    return BoundSource.of(source, HEADER)
        .get("name", column -> ROW.get(column).isEmpty() ? null : ROW.get(column));
  }

  @ParameterizedTest
  @CsvSource(
      quoteCharacter = '`',
      value = {
        "{name}, Ines.Duarte@Home",
        "{NAME|lower}, ines.duarte@home",
        "{NAME|upper|before @}, INES.DUARTE",
        "{NAME|after @}, Home",
        "{NAME|after .|before @}, Duarte",
        "{NAME|before nowhere}, Ines.Duarte@Home",
        "{NAME|after nowhere}, ``",
        "u_{HOST|trim}_{NAME|before .}, u_box_Ines",
        "plain, plain",
        "{{NAME}}, {NAME}",
      })
  void textsAndColumnsAreOneText(String written, String expected) throws BadRowException {
    assertThat(made(new FieldValue(Expression.of(written)))).isEqualTo(expected);
  }

  @Test
  void withNothingInAColumnItIsNothing() throws BadRowException {
    assertThat(made(new FieldValue(Expression.of("x{EMPTY}")))).isNull();
  }

  @Test
  void valuesAreTakenForOthersAndOthersAreMistakes() throws BadRowException {
    Expression host = Expression.of("{HOST|trim}");
    assertThat(made(new FieldValue(host, Map.of("box", "user"), null))).isEqualTo("user");
    assertThat(made(new FieldValue(host, Map.of("x", "y"), "rest"))).isEqualTo("rest");
    assertThatThrownBy(() -> made(new FieldValue(host, Map.of("x", "y"), null)))
        .isInstanceOf(BadRowException.class)
        .hasMessage("\"box\" is not known; the sheet knows x");
  }

  @Test
  void columnsThatAreMissingAreNamed() {
    assertThatThrownBy(() -> made(new FieldValue(Expression.of("{NAME}{other}{more}"))))
        .hasMessage("there is no column more, other; found empty, host, name");
  }

  @ParameterizedTest
  @ValueSource(strings = {"{", "}", "{}", "{A|}", "{A|shout}", "{A|before}", "{A|before }", "a}b"})
  void whatIsNoExpressionIsRefused(String written) {
    assertThatThrownBy(() -> Expression.of(written)).isInstanceOf(IllegalArgumentException.class);
  }
}
