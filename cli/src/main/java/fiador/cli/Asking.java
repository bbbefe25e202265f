package fiador.cli;

import fiador.changes.OnPaper;
import fiador.estate.Principals;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.grants.HouseRules;
import fiador.grants.Lookup;
import fiador.report.Format;
import fiador.servers.ServerException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import picocli.CommandLine.Option;

/** Commands that ask something of an estate. */
abstract class Asking extends Common {
  /** The version whose rules hold for a server that nobody has looked at yet. */
  private static final String NEWEST = "18";

  @Option(
      names = "--from",
      paramLabel = "X",
      description = {
        "What to answer from: a survey file; a charter's folder (its newest survey, else the charter",
        "itself); or a server of the charter here, surveyed afresh. Else the charter's folder here."
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
    Charter charter = Charters.read(folder);
    Charter.ServerEntry server = Charters.server(charter, null);
    Path file = Surveys.file(folder, server.name());
    if (!Files.isRegularFile(file)) {
      return onPaper(charter, server);
    }
    return SurveyReader.read(file);
  }

  private Access onPaper(Charter charter, Charter.ServerEntry server) {
    say("note: no survey of " + server.name() + " yet, so only what the charter names is known");
    boolean hasDatabases = server.url().startsWith("jdbc:postgresql:");
    String database = server.url().replaceFirst("\\?.*$", "").replaceFirst("^.*[/:]", "");
    HouseRules rules = HouseRules.of(server.kind(), NEWEST);
    return OnPaper.of(charter.wanted(), server.name(), rules, hasDatabases ? database : null);
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
