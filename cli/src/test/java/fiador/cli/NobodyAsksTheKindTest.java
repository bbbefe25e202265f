package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.rules.KnownHouses;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * House rules say how servers differ. Whoever tested the name of a kind would have to be found when
 * the next kind comes in, so nobody does: the name stands in the rules of that kind alone.
 */
final class NobodyAsksTheKindTest {
  /** The name as a text of its own, or a product's name that is compared with something. */
  private static final Pattern ASKS =
      Pattern.compile(
          "\"(?i:"
              + String.join("|", KnownHouses.kinds())
              + ")\"|(equals|startsWith|contains|case)\\w*[ (]\"[^\"]*(?i:"
              + String.join("|", KnownHouses.kinds())
              + ")");

  private static List<String> asking(Path module) throws IOException {
    List<String> found = new ArrayList<>();
    try (Stream<Path> all = Files.walk(module.resolve("src/main/java"))) {
      for (Path file : all.filter(path -> path.toString().endsWith(".java")).toList()) {
        for (String line : Files.readAllLines(file)) {
          if (ASKS.matcher(line).find()) {
            found.add(file.getFileName() + ": " + line.strip());
          }
        }
      }
    }
    return found;
  }

  /** A server that a sheet describes is known by the sheet alone. */
  @Test
  void noCodeNamesAServerThatASheetDescribes() throws IOException {
    Pattern names = Pattern.compile("\"(house/)?(h2|derby)[\":]|jdbc:(h2|derby):|org\\.h2|Derby");
    List<String> found = new ArrayList<>();
    for (String module : List.of("core", "sqltext", "files", "servers", "report", "work", "cli")) {
      try (Stream<Path> all = Files.walk(Path.of("..", module, "src/main/java"))) {
        for (Path file : all.filter(path -> path.toString().endsWith(".java")).toList()) {
          for (String line : Files.readAllLines(file)) {
            // examples in a help are no code
            if (names.matcher(line).find() && !line.contains("\"  fiador ")) {
              found.add(file.getFileName() + ": " + line.strip());
            }
          }
        }
      }
    }
    assertThat(found).isEmpty();
  }

  @Test
  void theNameOfAKindStandsInItsRulesAlone() throws IOException {
    List<String> found = new ArrayList<>();
    for (String module : List.of("core", "files", "servers", "report", "cli")) {
      found.addAll(asking(Path.of("..", module)));
    }
    assertThat(found)
        .filteredOn(line -> !line.matches("(Hsqldb|Mariadb|Postgresql)Rules.java: .* KIND = .*"))
        // where the ledger is kept is no server that is asked about
        .filteredOn(line -> !line.startsWith("LedgerStore.java: ") || !line.contains("jdbc:"))
        // a survey names its kind
        .filteredOn(line -> !line.startsWith("Ahead.java: {\"fiador_survey\""))
        .isEmpty();
  }
}
