package fiador.cli;

import fiador.estate.Principals;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.report.Format;
import fiador.servers.ServerException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import picocli.CommandLine.Option;

/** Commands that ask something of an estate. */
abstract class Asking extends Common {
  @Option(
      names = "--from",
      paramLabel = "X",
      description = {
        "What to answer from: a survey file, a charter's folder (its newest survey), or a server of",
        "the charter here, which is then surveyed afresh. Else the newest survey of the charter here."
      })
  String from;

  @Option(
      names = "--format",
      paramLabel = "F",
      description = "text, json, jsonl, csv or markdown.",
      defaultValue = "text")
  Format format;

  /** Reads what is to be asked. */
  Access access() throws BadInput, SurveyException, CharterException, ServerException, IOException {
    if (from == null) {
      return newestSurvey(Path.of(""));
    }
    Path path = Path.of(from);
    if (Files.isRegularFile(path)) {
      return SurveyReader.read(path);
    }
    if (Files.isDirectory(path)) {
      return newestSurvey(path);
    }
    if (Files.isRegularFile(Path.of("").resolve(CharterReader.ROOT))) {
      Charter charter = CharterReader.read(Path.of(""), System::getenv);
      if (charter.servers().containsKey(from)) {
        return Surveys.take(charter.servers().get(from), clock.instant(), this::say);
      }
    }
    throw new BadInput(
        "--from "
            + from
            + " is no survey file, no charter's folder and no server of the charter here");
  }

  private Access newestSurvey(Path folder)
      throws BadInput, SurveyException, CharterException, IOException {
    Path only = Surveys.only(folder);
    if (only != null) {
      return SurveyReader.read(only);
    }
    Charter.ServerEntry server = Charters.server(Charters.read(folder), null);
    Path file = Surveys.file(folder, server.name());
    if (!Files.isRegularFile(file)) {
      throw new BadInput(
          "there is no survey of " + server.name() + " yet; take one with fiador survey");
    }
    return SurveyReader.read(file);
  }

  /** The principal of that name. */
  static int principal(Access access, String name) throws BadInput {
    Lookup.Found found = new Lookup(access).principal(name);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    if (found.id() == Principals.PUBLIC) {
      throw new BadInput("PUBLIC is everybody; ask for a user or a role");
    }
    return found.id();
  }
}
