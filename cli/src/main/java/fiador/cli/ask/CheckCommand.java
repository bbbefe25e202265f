package fiador.cli.ask;

import fiador.changes.Gap;
import fiador.changes.wanted.PaperProblems;
import fiador.changes.wanted.Problem;
import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.Charter;
import fiador.files.houses.HouseSheets;
import fiador.files.survey.SurveyException;
import fiador.files.yaml.Mistakes;
import fiador.houses.FactSort;
import fiador.houses.FactSource;
import fiador.houses.HouseSheet;
import fiador.houses.Pattern;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

public final class CheckCommand extends Common {
  Path folder = Path.of("");
  Path house;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional(
        "DIR", Path.class, value -> folder = value, "The charter's folder; else this one.");
    options.option(
        "--house",
        "FILE",
        Path.class,
        value -> house = value,
        "Checks a house sheet, which describes a kind of server, and no charter.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Is the charter right? Syntax, names and references; all mistakes in one go."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador check",
      "  fiador check examples/aguarela",
      "  fiador check --house dw.house.yaml"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (house != null) {
      return sheet();
    }
    Charter charter = Charters.read(folder);
    int wrong = 0;
    for (Charter.ServerEntry server : charter.servers().values()) {
      for (Problem problem : PaperProblems.of(charter.on(server.name()).wanted(), server.rules())) {
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

  private int sheet() throws IOException {
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet = HouseSheets.read(house, mistakes);
    mistakes.list().forEach(err::println);
    int wrong = mistakes.list().size();
    if (sheet == null) {
      err.println(wrong == 1 ? "1 mistake in the sheet" : wrong + " mistakes in the sheet");
      return Exit.BAD_INPUT;
    }
    List<FactSource> sources =
        sheet.reading().sources().values().stream().flatMap(List::stream).toList();
    long queries = sources.stream().filter(source -> source.query() != null).count();
    long extracts = sources.stream().filter(source -> source.extract() != null).count();
    out.println("the house sheet " + sheet.name() + " is right: " + sheet.about());
    out.println(
        "  facts from "
            + queries
            + " queries or "
            + extracts
            + " extracts; "
            + sheet.writing().patterns().size()
            + " of "
            + Pattern.values().length
            + " statements");
    List<String> silent = new ArrayList<>();
    for (FactSort sort : FactSort.values()) {
      if (sheet.reading().of(sort).isEmpty()) {
        silent.add(sort.word().replace('_', ' '));
      }
    }
    if (!silent.isEmpty()) {
      out.println("  not known of this kind: " + String.join(", ", silent));
    }
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
        Gap.problems(
            surveys().read(file), charter.on(server.name()).wanted(), false, Set.of(), clock);
    problems.forEach(problem -> err.println(problem + "  (survey of " + server.name() + ")"));
    return problems.size();
  }
}
