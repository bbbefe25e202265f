package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WildcardTest {
  /** The order in which a MariaDB 10.11 put them for the schema abcd. */
  private static final List<List<String>> AS_THE_SERVER_RANKS =
      List.of(
          List.of("_bcd"),
          List.of("abc_"),
          List.of("_b_d"),
          List.of("a_c_"),
          List.of("____"),
          List.of("%abcd"),
          List.of("abcd%"),
          List.of("%bcd"),
          List.of("a%cd"),
          List.of("ab%d"),
          List.of("abc%"),
          List.of("a_%d", "a%_d"),
          List.of("___%"),
          List.of("%cd"),
          List.of("a%d", "a%%d"),
          List.of("ab%"),
          List.of("_b%", "%_d"),
          List.of("a_%"),
          List.of("__%", "_%_", "%__"),
          List.of("%a%d", "%b%d", "%bc%"),
          List.of("a%c%", "a%b%"),
          List.of("%a%b%"),
          List.of("%d", "%%d"),
          List.of("a%%", "a%"),
          List.of("_%", "%_"),
          List.of("%b%", "%a%"),
          List.of("%%", "%", "%%%"));

  @Test
  void patternsComeInTheServersOrder() {
    for (int i = 1; i < AS_THE_SERVER_RANKS.size(); i++) {
      for (String before : AS_THE_SERVER_RANKS.get(i - 1)) {
        for (String after : AS_THE_SERVER_RANKS.get(i)) {
          assertThat(new Wildcard(before).compareTo(new Wildcard(after)))
              .as(before + " before " + after)
              .isLessThanOrEqualTo(0);
        }
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "app_x, app_x, true",
    "app_x, appax, true",
    "app\\_x, app_x, true",
    "app\\_x, appax, false",
    "a%x, ax, true",
    "a%x, axb, false",
    "%, anything, true",
    "%b%d, abxxbd, true",
    "abc, abc, true",
    "abc, ABC, false",
    "a%%c, abc, true",
    "_, ab, false"
  })
  void aPatternMatchesWhatTheServerLetsItMatch(String pattern, String name, boolean matches) {
    assertThat(new Wildcard(pattern).matches(name)).isEqualTo(matches);
  }

  @Test
  void aSchemasOwnPatternMatchesNoOther() {
    assertThat(SchemaPattern.of("app_x%")).isEqualTo("app\\_x\\%");
    assertThat(new Wildcard(SchemaPattern.of("a_b")).matches("a_b")).isTrue();
    assertThat(new Wildcard(SchemaPattern.of("a_b")).matches("axb")).isFalse();
  }
}
