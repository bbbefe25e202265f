package fiador.cli.shell;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** How large the terminal says it is. */
final class ScreenTest {
  @Test
  void linesComeBeforeColumns() {
    assertThat(Screen.size("24 80")).containsExactly(24, 80);
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "24", "24 80 1", "24  80", "-1 80", "99999 80", "a b", "24 80\u001b"})
  void whatIsNoSizeIsNotKnown(String said) {
    assertThat(Screen.size(said)).containsExactly(0, 0);
  }

  @Test
  void whereThereIsNoTerminalNothingIsAsked() {
    assertThat(Screen.NONE.columns()).isZero();
    assertThat(Screen.NONE.lines()).isZero();
  }
}
