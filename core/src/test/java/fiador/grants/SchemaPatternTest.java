package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class SchemaPatternTest {
  private static SchemaPattern pattern(String text) {
    return new SchemaPattern(1, text, 1, 0);
  }

  @Test
  void onlyAnEscapedNameMeansThatOneSchema() {
    assertThat(pattern("app").isOf("app")).isTrue();
    assertThat(pattern("app\\_x").isOf("app_x")).isTrue();
    // any character may stand there, and only this text takes it back
    assertThat(pattern("app_x").isOf("app_x")).isFalse();
    assertThat(pattern("app%").isOf("app")).isFalse();
    assertThat(pattern(SchemaPattern.of("a_b%c\\d")).isOf("a_b%c\\d")).isTrue();
  }
}
