package fiador.cli.review;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.Terminal;
import fiador.files.ledger.ReviewBook;
import fiador.files.ledger.ReviewBook.Said;
import fiador.files.sheets.SheetReader;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.reviews.Answer;
import fiador.reviews.Decision;
import fiador.reviews.Line;
import fiador.reviews.Returned;
import fiador.reviews.Review;
import fiador.work.charters.Ledgers;
import java.io.Console;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

public final class ReviewDecideCommand extends ReviewStep {
  String name;
  List<Path> files = List.of();
  String reviewer;
  List<String> keys = List.of();
  String answer;
  String remark = "";

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("NAME", value -> name = value, "Which review.");
    options.rest("FILE", Path.class, value -> files = value, "Sheets that came back.");
    options.option("--as", "REVIEWER", value -> reviewer = value, "In whose name.");
    options.list(
        "--line", "LINE", String.class, value -> keys = value, "This line; may be repeated.");
    options.option("--answer", "A", value -> answer = value, "keep, revoke or unsure.");
    options.option("--remark", "TEXT", value -> remark = value, "Why.");
  }

  @Override
  public int step() throws Refusal, IOException {
    ReviewBook.Kept kept = reviews.open(name);
    Review review = kept.review();
    if (!files.isEmpty()) {
      return fromFiles(review);
    }
    if (reviewer == null) {
      throw new BadInput("give the sheets that came back, or --as REVIEWER");
    }
    if (review.linesOf(reviewer).isEmpty()) {
      throw new BadInput(
          "nothing is asked of "
              + reviewer
              + "; reviewers are "
              + String.join(", ", review.reviewers()));
    }
    if (!keys.isEmpty() || answer != null) {
      return single(review);
    }
    Console console = Terminal.console();
    if (console == null) {
      throw new BadInput("this is no terminal to ask on; give --line and --answer, or a sheet");
    }
    return ask(review, console);
  }

  private int fromFiles(Review review) throws Refusal, IOException {
    List<List<Said>> all = new ArrayList<>();
    Set<String> seen = new LinkedHashSet<>();
    boolean wrong = false;
    for (Path file : files) {
      SheetReader.Sheet sheet = SheetReader.read(file);
      Returned returned = Returned.of(review, sheet.columns(), sheet.rows());
      List<String> problems = new ArrayList<>(returned.problems());
      if (returned.reviewer() != null && !seen.add(returned.reviewer())) {
        problems.add("there is another sheet of " + returned.reviewer() + " among the files");
      }
      if (reviewer != null && problems.isEmpty() && !reviewer.equals(returned.reviewer())) {
        problems.add("this is the sheet of " + returned.reviewer() + ", not of " + reviewer);
      }
      problems.forEach(problem -> err.println(file + ": " + problem));
      wrong |= !problems.isEmpty();
      List<Said> said = new ArrayList<>();
      for (Line line : review.lines()) {
        Returned.Given given = returned.answers().get(line.key());
        if (given != null && isNew(review, line, given)) {
          said.add(new Said(line.key(), given.answer(), given.remark(), returned.reviewer()));
        }
      }
      all.add(said);
    }
    if (wrong) {
      throw new BadInput("nothing was taken in; mend the sheets and try again");
    }
    for (int i = 0; i < files.size(); i++) {
      record(all.get(i), "sheet " + files.get(i).getFileName());
      out.println(files.get(i) + ": " + decisions(all.get(i).size()) + " taken in");
    }
    return left();
  }

  /** A sheet that is taken in twice says nothing new the second time. */
  private static boolean isNew(Review review, Line line, Returned.Given given) {
    Decision before = review.decision(line.key());
    return before == null
        || before.answer() != given.answer()
        || !before.remark().equals(given.remark());
  }

  private static String decisions(int count) {
    return count == 0 ? "no new decisions" : count == 1 ? "1 decision" : count + " decisions";
  }

  private void record(List<Said> said, String source) throws IOException {
    if (!said.isEmpty()) {
      reviews.book().decide(name, said, source, Ledgers.runner(), clock.instant());
    }
  }

  private int left() throws IOException {
    Review review = reviews.book().read(name).review();
    int open = review.lines().size() - review.decided();
    out.println(open == 0 ? "all lines are decided" : lines(open) + " still open");
    return Exit.YES;
  }

  private int single(Review review) throws BadInput, IOException {
    Answer said = answer == null ? null : Answer.named(answer);
    if (said == null || keys.isEmpty()) {
      throw new BadInput("--line LINE and --answer keep, revoke or unsure go together");
    }
    List<Said> all = new ArrayList<>();
    for (String key : keys) {
      Line line = review.line(key);
      if (line == null || !line.reviewer().equals(reviewer)) {
        throw new BadInput(
            line == null
                ? "there is no line " + key + "; fiador review status --format csv lists them"
                : "line " + key + " is asked of " + line.reviewer() + ", not " + reviewer);
      }
      all.add(new Said(key, said, remark.strip(), reviewer));
    }
    record(all, "command");
    return left();
  }

  /** Asks line by line; each answer is recorded at once, so that nothing is lost. */
  private int ask(Review review, Console console) throws IOException {
    List<Line> open =
        review.linesOf(reviewer).stream()
            .filter(line -> review.decision(line.key()) == null)
            .toList();
    int at = 0;
    for (Line line : open) {
      console.printf("%n%d of %d   %s   %s%n", ++at, open.size(), line.key(), line.who());
      console.printf("  may      %s%n  through  %s%n", line.may(), line.through());
      if (!line.since().isEmpty() || !line.lastUsed().isEmpty()) {
        console.printf("  since    %s   last used %s%n", line.since(), line.lastUsed());
      }
      if (!line.findings().isEmpty()) {
        console.printf("  finding  %s%n", String.join(", ", line.findings()));
      }
      Answer said = null;
      while (said == null) {
        String typed = console.readLine("  keep, revoke or unsure? (Enter: later, q: stop) ");
        if (typed == null || typed.strip().equalsIgnoreCase("q")) {
          return left();
        } else if (typed.isBlank()) {
          break;
        }
        said = Answer.named(typed);
      }
      if (said != null) {
        String why = console.readLine("  why? (Enter: nothing) ");
        record(
            List.of(new Said(line.key(), said, why == null ? "" : why.strip(), reviewer)),
            "terminal");
      }
    }
    return left();
  }

  @Override
  public String[] description() {
    return new String[] {
      "Takes decisions in: from sheets that came back, of single lines, or asks on a terminal.",
      "Sheets that are not right are refused as a whole, with all that is wrong row by row."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador review decide spring spring-paulo.matias.xlsx",
      "  fiador review decide spring --as paulo.matias",
      "  fiador review decide spring --as paulo.matias --line 12-9f3a --answer revoke \\",
      "                       --remark 'left the project'"
    };
  }
}
