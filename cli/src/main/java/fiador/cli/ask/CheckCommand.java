package fiador.cli.ask;

import fiador.changes.Gap;
import fiador.changes.wanted.PaperProblems;
import fiador.changes.wanted.Problem;
import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.Charter;
import fiador.files.survey.SurveyException;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

public final class CheckCommand extends Common {
  Path folder = Path.of("");

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional(
        "DIR", Path.class, value -> folder = value, "The charter's folder; else this one.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Is the charter right? Syntax, names and references; all mistakes in one go."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {"", "Examples:", "  fiador check", "  fiador check examples/aguarela"};
  }

  @Override
  public int run() throws Refusal, IOException {
    Charter charter = Charters.read(folder);
    int wrong = 0;
    for (Charter.ServerEntry server : charter.servers().values()) {
      for (Problem problem : PaperProblems.of(charter.wanted(), server.rules())) {
        err.println(problem);
        wrong++;
      }
      wrong += againstSurvey(charter, server);
    }
    if (wrong > 0) {
      err.println(wrong == 1 ? "1 mistake in the charter" : wrong + " mistakes in the charter");
      return Exit.BAD_INPUT;
    }
    out.println(
        "the charter is right: "
            + charter.servers().size()
            + " server(s), "
            + charter.wanted().roles().size()
            + " roles, "
            + charter.wanted().users().size()
            + " users, "
            + charter.wanted().memberships().size()
            + " memberships, "
            + charter.wanted().grants().size()
            + " grant sentences");
    return Exit.YES;
  }

  /** What only shows against the things that are there, where a survey was taken. */
  private int againstSurvey(Charter charter, Charter.ServerEntry server)
      throws SurveyException, IOException {
    Path file = Surveys.file(folder, server.name());
    if (!Files.isRegularFile(file)) {
      return 0;
    }
    List<Problem> problems =
        Gap.between(surveys().read(file), charter.wanted(), false, Set.of(), clock)
            .plan()
            .problems();
    problems.forEach(problem -> err.println(problem + "  (survey of " + server.name() + ")"));
    return problems.size();
  }
}
