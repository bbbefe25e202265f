package fiador.cli;

import fiador.changes.Step;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.grants.Access;
import fiador.servers.Dialect;
import fiador.servers.Servers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import picocli.CommandLine.Option;

/** Commands that review an estate, with what a charter expects of it where there is one. */
abstract class Reviewing extends Asking {
  @Option(
      names = "--charter",
      paramLabel = "DIR",
      description = "The charter that says what is expected; else the one asked, if any.")
  Path charterFolder;

  /** The charter that goes with what is asked, or null. */
  Charter charter() throws CharterException, IOException {
    Path folder = charterFolder;
    boolean survey = from != null && Files.isRegularFile(Path.of(from));
    if (folder == null && !survey) {
      folder = from != null && Files.isDirectory(Path.of(from)) ? Path.of(from) : Path.of("");
    }
    boolean there = folder != null && Files.isRegularFile(folder.resolve(CharterReader.ROOT));
    return there || charterFolder != null ? Charters.read(folder) : null;
  }

  /** What carries steps out on the server asked about. */
  static Function<List<Step>, List<String>> statements(Access access) {
    Dialect dialect = Servers.named(access.about().kind()).orElseThrow().dialect();
    return steps -> dialect.batches(steps).stream().map(Dialect.Batch::sql).toList();
  }
}
