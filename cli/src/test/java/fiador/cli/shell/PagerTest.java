package fiador.cli.shell;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Long answers go through the pager somebody named, short ones and all others do not. */
final class PagerTest {
  @TempDir Path folder;

  private String shown(String program, int lines, int written) throws IOException {
    ByteArrayOutputStream terminal = new ByteArrayOutputStream();
    Pager pager = new Pager(terminal, program);
    pager.begin(lines);
    for (int line = 1; line <= written; line++) {
      pager.write(("line " + line + "\n").getBytes(StandardCharsets.UTF_8));
      pager.flush();
    }
    pager.end();
    return terminal.toString(StandardCharsets.UTF_8);
  }

  private String program(Path to) {
    return "cat > '" + to + "'";
  }

  @Test
  void whatFitsIsShownAtOnce() throws IOException {
    Path paged = folder.resolve("paged");
    assertThat(shown(program(paged), 10, 8)).isEqualTo(lines(8));
    assertThat(paged).doesNotExist();
  }

  @Test
  void whatDoesNotFitGoesThroughTheProgramWhole() throws IOException {
    Path paged = folder.resolve("paged");
    assertThat(shown(program(paged), 10, 500)).isEmpty();
    assertThat(Files.readString(paged)).isEqualTo(lines(500));
  }

  @Test
  void withoutAProgramOrAKnownHeightNothingIsHeldBack() throws IOException {
    assertThat(shown(null, 10, 50)).isEqualTo(lines(50));
    assertThat(shown(" ", 10, 50)).isEqualTo(lines(50));
    assertThat(shown(program(folder.resolve("paged")), 0, 50)).isEqualTo(lines(50));
  }

  @Test
  void whoLeavesTheProgramEarlyHasSeenEnough() throws IOException {
    assertThat(shown("head -n 1 > /dev/null", 10, 100_000)).isEmpty();
  }

  private static String lines(int count) {
    StringBuilder lines = new StringBuilder();
    for (int line = 1; line <= count; line++) {
      lines.append("line ").append(line).append('\n');
    }
    return lines.toString();
  }
}
