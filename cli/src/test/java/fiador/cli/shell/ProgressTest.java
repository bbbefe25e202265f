package fiador.cli.shell;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.ask.CheckCommand;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class ProgressTest {
  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private final PrintStream err = new PrintStream(bytes, true);

  @Test
  void saysHowFarItHasCome() throws Exception {
    try (Progress progress = Progress.shown("settling", 40, "steps", err)) {
      progress.more(10);
      for (int i = 0; i < 200 && !bytes.toString(StandardCharsets.UTF_8).contains("25%"); i++) {
        Thread.sleep(20);
      }
    }
    assertThat(bytes.toString(StandardCharsets.UTF_8))
        .contains("settling")
        .contains("25%")
        .contains("10/40");
  }

  @Test
  void saysNothingWhereNoTerminalIs() {
    Common command = new CheckCommand();
    command.err = err;
    try (Progress progress = Progress.of("settling", 40, "steps", command)) {
      progress.more(10);
    }
    // tests have no console
    assertThat(bytes.size()).isZero();
  }
}
