package fiador.cli;

import fiador.files.charter.CharterException;
import fiador.files.survey.SurveyException;
import fiador.servers.ServerException;
import java.io.IOException;
import java.io.PrintStream;
import java.time.Clock;
import picocli.CommandLine.Option;

/**
 * What all commands share. What they say of themselves are methods and no annotation, because
 * reading an annotation takes a short answer longer than finding it.
 */
abstract class Common {
  PrintStream out;
  PrintStream err;
  Clock clock = Clock.systemUTC();

  @Option(
      names = {"-h", "--help"},
      usageHelp = true,
      description = "Shows this help.")
  boolean help;

  @Option(
      names = {"-q", "--quiet"},
      description = "Says nothing but the answer and errors.")
  boolean quiet;

  @Option(
      names = {"-v", "--verbose"},
      description = "Shows more when something goes wrong.")
  boolean verbose;

  @Option(
      names = "--width",
      paramLabel = "N",
      description = "How wide a line of text may be; else the terminal's COLUMNS, else 100.")
  Integer widthOption;

  /** What the command does, for its help. */
  abstract String[] description();

  /** What else its help says: examples. */
  String[] footer() {
    return new String[0];
  }

  /** Does the work; gives the exit code. */
  abstract int run()
      throws BadInput, SurveyException, CharterException, ServerException, IOException;

  int width() {
    if (widthOption != null) {
      return Math.max(40, widthOption);
    }
    String columns = System.getenv("COLUMNS");
    return columns != null && columns.matches("\\d{2,4}")
        ? Math.max(40, Integer.parseInt(columns))
        : 100;
  }

  /** Says something on the way, unless told to be quiet. */
  void say(String message) {
    if (!quiet) {
      err.println(message);
    }
  }
}
