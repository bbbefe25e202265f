package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;

class ManualsTest {
  @TempDir Path folder;

  @Test
  void everyCommandHasAPageThatNamesAllItsOptions() throws Exception {
    Manuals.main(new String[] {folder.toString()});
    for (String name : Commands.NAMES) {
      Path page = folder.resolve("man/man1/fiador-" + name.replace(' ', '-') + ".1");
      String text = Files.readString(page).replace("\\-", "-");
      CommandLine command = Commands.line(name, Commands.named(name));
      command
          .getCommandSpec()
          .options()
          .forEach(option -> assertThat(text).as(name).contains(option.longestName()));
      command
          .getCommandSpec()
          .positionalParameters()
          .forEach(each -> assertThat(text).as(name).contains(each.paramLabel()));
    }
    assertThat(Files.readString(folder.resolve("man/man1/fiador.1"))).contains("fiador\\-trace(1)");
  }

  @Test
  void noLineOfAPageIsTakenForACommandOfItsLanguage() throws Exception {
    Manuals.main(new String[] {folder.toString()});
    List<String> odd = new ArrayList<>();
    try (var pages = Files.list(folder.resolve("man/man1"))) {
      for (Path page : pages.toList()) {
        for (String line : Files.readAllLines(page)) {
          boolean known = line.matches("\\.(TH|SH|TP|B|br)( .*)?");
          if ((line.startsWith(".") || line.startsWith("'")) && !known) {
            odd.add(page.getFileName() + ": " + line);
          }
        }
      }
    }
    assertThat(odd).isEmpty();
  }

  @Test
  void theCompletionScriptIsTakenByBash() throws Exception {
    Program completion = Program.run("completion");
    assertThat(completion.code).isZero();
    Path script = Files.writeString(folder.resolve("fiador.bash"), completion.out);
    // what completes "fiador tra" and an option of it
    String asks =
        "source "
            + script
            + "; COMP_WORDS=(fiador tra); COMP_CWORD=1; _complete_fiador; echo ${COMPREPLY[*]};"
            + " COMP_WORDS=(fiador review st); COMP_CWORD=2; _complete_fiador; echo ${COMPREPLY[*]}";
    Process bash = new ProcessBuilder("bash", "-c", asks).redirectErrorStream(true).start();
    String said = new String(bash.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(bash.waitFor(20, TimeUnit.SECONDS)).isTrue();
    assertThat(said.lines()).containsExactly("trace", "status");
  }

  @Test
  void everyNameIsACommandAndNoOther() {
    assertThat(Commands.NAMES).allSatisfy(name -> assertThat(Commands.named(name)).isNotNull());
    assertThat(Commands.named("traces")).isNull();
    assertThat(TopHelp.names()).isEqualTo(Commands.NAMES);
  }

  @Test
  void helpIsPlainOnTerminalsToo() {
    // what the library would do by itself where it takes the output for a terminal
    System.setProperty("picocli.ansi", "true");
    try {
      assertThat(Program.run("trace", "--help").out).startsWith("Usage: fiador trace [-hqv]");
    } finally {
      System.clearProperty("picocli.ansi");
    }
  }
}
