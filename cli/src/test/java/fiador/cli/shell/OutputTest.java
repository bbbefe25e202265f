package fiador.cli.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import fiador.cli.Program;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The program as a process: what becomes of its answer, and of what it is given. */
final class OutputTest {
  private static final Path WATERWORKS =
      Path.of("../examples/aguarela/trouble/waterworks.survey.jsonl.gz").toAbsolutePath();

  @TempDir Path folder;

  @BeforeEach
  void onLinux() {
    assumeTrue(Files.exists(Path.of("/dev/full")));
  }

  private record Ended(int code, String err) {}

  /** Runs the program in a shell, whose line says where its output goes. */
  private Ended shell(String arguments, Map<String, String> environment) throws Exception {
    String java = Path.of(System.getProperty("java.home"), "bin/java").toString();
    ProcessBuilder shell =
        new ProcessBuilder(
            "bash",
            "-c",
            "set -o pipefail; \""
                + java
                + "\" -XX:TieredStopAtLevel=1 fiador.cli.Main "
                + arguments);
    shell.environment().put("CLASSPATH", System.getProperty("java.class.path"));
    shell.environment().putAll(environment);
    Path err = folder.resolve("err");
    Process process =
        shell.redirectError(err.toFile()).redirectOutput(folder.resolve("out").toFile()).start();
    int code = process.waitFor();
    return new Ended(code, Files.readString(err, StandardCharsets.UTF_8));
  }

  @Test
  void anAnswerThatWasNotWrittenIsNoSuccess() throws Exception {
    for (String format : List.of("text", "json", "csv")) {
      String ask = "holdings joao.serra --from " + WATERWORKS + " --format " + format;
      Ended full = shell(ask + " > /dev/full", Map.of());
      assertThat(full.code()).as(format).isEqualTo(Exit.BAD_INPUT);
      assertThat(full.err()).contains("could not be written");
      assertThat(shell(ask, Map.of()).code()).isZero();
    }
  }

  @Test
  void aReaderThatHasGoneAwayHadAllItWanted() throws Exception {
    String ask =
        "holdings --everyone --from " + WATERWORKS + " --format jsonl | head -1 > /dev/null";
    Ended piped = shell(ask, Map.of());
    assertThat(piped.code()).isZero();
    assertThat(piped.err()).isEmpty();
  }

  @Test
  void aSecretWhoseLettersWereLostIsRefused() throws Exception {
    String url = "jdbc:hsqldb:file:" + folder.resolve("db");
    Files.writeString(
        folder.resolve("fiador.yaml"),
        "fiador: 1\nservers: {s: {kind: hsqldb, url: '"
            + url
            + "', login: SA}}\n"
            + "users: {ana: {kind: person}}\ngoverns: {users: [ana]}\n");
    String settle = "settle -q --charter " + folder;
    Map<String, String> secret = Map.of("FIADOR_SECRET_ANA", "geheimnis-é", "LC_ALL", "C");
    Ended lost = shell(settle, secret);
    assertThat(lost.code()).isEqualTo(Exit.BAD_INPUT);
    assertThat(lost.err())
        .contains("FIADOR_SECRET_ANA")
        .contains("were lost")
        .doesNotContain("geheimnis");
    Ended kept = shell(settle, Map.of("FIADOR_SECRET_ANA", "geheimnis-é", "LC_ALL", "C.UTF-8"));
    assertThat(kept.code()).as(kept.err()).isZero();
  }

  @Test
  void namesOfOthersDoNotReachTheTerminalRaw() throws Exception {
    Program unknown =
        Program.run(
            "trace",
            "x\u001b]0;owned\u0007\u202e",
            "select",
            "a.b",
            "--from",
            WATERWORKS.toString());
    assertThat(unknown.code).isEqualTo(Exit.BAD_INPUT);
    assertThat(unknown.err)
        .contains("\\u001b]0;owned\\u0007\\u202e")
        .doesNotContain("\u001b", "\u202e");
  }
}
